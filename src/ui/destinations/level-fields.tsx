'use client';

import { useFormContext } from 'react-hook-form';
import type { Destination } from '../../core/deliver/destination';
import { ChoiceField } from '../kit/choice-field';
import { Group, NumberField, RequirementRow } from './requirement-row';

const NO_GROUNDS = { reason: '', source: '' };
const RULES = [
  { value: 'target', title: 'this, within' },
  { value: 'maximum', title: 'at most' },
] as const;

/** What each limit of loudness begins with when it is first asked for. */
const LIMITS = [
  {
    key: 'momentary',
    title: 'Momentary, highest',
    blank: { maxLufs: -8 },
    field: 'maxLufs',
    label: 'At most',
    unit: 'LUFS',
  },
  {
    key: 'shortTerm',
    title: 'Short-term, highest',
    blank: { maxLufs: -10 },
    field: 'maxLufs',
    label: 'At most',
    unit: 'LUFS',
  },
  { key: 'range', title: 'Loudness range', blank: { maxLu: 20 }, field: 'maxLu', label: 'At most', unit: 'LU' },
  { key: 'plr', title: 'PLR', blank: { minLu: 8 }, field: 'minLu', label: 'At least', unit: 'LU' },
] as const;

/** Loudness and peaks. */
export function LevelFields() {
  const { watch, setValue } = useFormContext<Destination>();
  const loudness = watch('loudness');
  return (
    <Group title="Loudness and peaks">
      <RequirementRow
        title="Loudness, integrated"
        grounds="loudness"
        asked={loudness !== null}
        onAsk={(on) => setValue('loudness', on ? { rule: 'target', lufs: -14, toleranceLu: 1, ...NO_GROUNDS } : null)}
      >
        {loudness && (
          <>
            <ChoiceField
              label="Rule"
              value={loudness.rule}
              options={RULES}
              width={140}
              onChange={(rule) => {
                const { lufs, reason, source } = loudness;
                const kept = { lufs, reason, source };
                setValue('loudness', rule === 'target' ? { rule, toleranceLu: 1, ...kept } : { rule, ...kept });
              }}
            />
            <NumberField name="loudness.lufs" label="Loudness" unit="LUFS" />
            {loudness.rule === 'target' && <NumberField name="loudness.toleranceLu" label="Within" unit="LU" />}
          </>
        )}
      </RequirementRow>
      {LIMITS.map(({ key, title, blank, field, label, unit }) => (
        <RequirementRow
          key={key}
          title={title}
          grounds={key}
          asked={watch(key) !== null}
          onAsk={(on) => setValue(key, on ? { ...blank, ...NO_GROUNDS } : null)}
        >
          <NumberField name={`${key}.${field}` as 'momentary.maxLufs'} label={label} unit={unit} />
        </RequirementRow>
      ))}
      <RequirementRow title="True peak" grounds="truePeak">
        <NumberField name="truePeak.maxDbtp" label="At most" unit="dBTP" />
      </RequirementRow>
    </Group>
  );
}
