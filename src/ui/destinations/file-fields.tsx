'use client';

import Box from '@mui/material/Box';
import { useFormContext } from 'react-hook-form';
import type { Destination } from '../../core/deliver/destination';
import { DITHERS } from '../../core/deliver/dither';
import { STANDARD_PATTERN } from '../../core/deliver/file-name';
import { FORMATS, FORMAT_TRAITS, WORD_LENGTHS } from '../../core/deliver/format';
import { showRate } from '../../core/deliver/requirement';
import { TAG_NAMES, TAG_TITLES } from '../../core/deliver/tags';
import { DITHER_TITLES } from '../track/deliver/dither-words';
import { RATE_OPTIONS } from './encode-fields';
import { ChoiceField } from '../kit/choice-field';
import { CheckField, Group, NamedField, NumberField, RequirementRow } from './requirement-row';

const NO_GROUNDS = { reason: '', source: '' };
const FORMAT_OPTIONS = FORMATS.map((value) => ({ value, title: value }));
const BITS_OPTIONS = WORD_LENGTHS.map((value) => ({ value, title: `${value} bits` }));
const DITHER_OPTIONS = DITHERS.map((value) => ({ value, title: DITHER_TITLES[value] }));
const HERTZ_OPTIONS = [44100, 48000, 88200, 96000, 176400, 192000].map((value) => ({ value, title: showRate(value) }));
const RATE_RULES = [
  { value: 'mix', title: 'the mix’s own' },
  { value: 'fixed', title: 'always' },
  { value: 'minimum', title: 'the mix’s own, from' },
] as const;

/** What the file is, how long it lasts and what comes with it. */
export function FileFields() {
  const { watch, setValue } = useFormContext<Destination>();
  const format = watch('format');
  const rate = watch('sampleRate');
  const wordLength = watch('wordLength');
  const tags = watch('tags');
  const { lossless, help } = FORMAT_TRAITS[format.name];
  return (
    <>
      <Group title="File">
        <RequirementRow title="Format" grounds="format">
          <ChoiceField
            {...{ label: 'Format', value: format.name, options: FORMAT_OPTIONS, width: 170 }}
            onChange={(name) =>
              setValue('format', { ...format, name, kbps: FORMAT_TRAITS[name].lossless ? null : (format.kbps ?? 256) })
            }
          />
          {!lossless && (
            <ChoiceField
              {...{ label: 'Rate', value: format.kbps ?? 256, options: RATE_OPTIONS, width: 130 }}
              onChange={(kbps) => setValue('format.kbps', kbps)}
            />
          )}
          <Box sx={{ fontSize: 12.5, color: 'text.secondary', maxWidth: 280 }}>{help}</Box>
        </RequirementRow>
        <RequirementRow title="Sample rate" grounds="sampleRate">
          <ChoiceField
            {...{ label: 'Rule', value: rate.rule, options: RATE_RULES, width: 190 }}
            onChange={(rule) => {
              const { reason, source } = rate;
              const hertz = rate.rule === 'mix' ? 48000 : rate.hertz;
              const kept = { reason, source };
              if (rule === 'mix') setValue('sampleRate', { rule, ...kept });
              else
                setValue(
                  'sampleRate',
                  rule === 'fixed' ? { rule, hertz, upsampling: false, ...kept } : { rule, hertz, ...kept },
                );
            }}
          />
          {rate.rule !== 'mix' && (
            <ChoiceField
              {...{ label: 'Rate', value: rate.hertz, options: HERTZ_OPTIONS, width: 130 }}
              onChange={(hertz) => setValue('sampleRate', { ...rate, hertz })}
            />
          )}
          {rate.rule === 'fixed' && (
            <CheckField
              label="Never upsampled"
              checked={!rate.upsampling}
              onChange={(never) => setValue('sampleRate', { ...rate, upsampling: !never })}
            />
          )}
        </RequirementRow>
        {lossless && (
          <RequirementRow title="Word length" grounds="wordLength">
            <ChoiceField
              {...{ label: 'Bits', value: wordLength.bits, options: BITS_OPTIONS, width: 110 }}
              onChange={(bits) => setValue('wordLength.bits', bits)}
            />
            <ChoiceField
              {...{ label: 'Dither', value: wordLength.dither, options: DITHER_OPTIONS, width: 160 }}
              onChange={(dither) => setValue('wordLength.dither', dither)}
            />
            <CheckField
              label="Zeros in silence"
              checked={wordLength.digitalSilence}
              onChange={(on) => setValue('wordLength.digitalSilence', on)}
            />
            <CheckField
              label="Only from mixes at full word length"
              checked={wordLength.reducedOnce}
              onChange={(on) => setValue('wordLength.reducedOnce', on)}
            />
          </RequirementRow>
        )}
      </Group>
      <Group title="Time">
        <RequirementRow
          title="Duration"
          grounds="duration"
          asked={watch('duration') !== null}
          onAsk={(on) => setValue('duration', on ? { minSeconds: 4, maxSeconds: 1800, ...NO_GROUNDS } : null)}
        >
          <NumberField name="duration.minSeconds" label="At least" unit="s" />
          <NumberField name="duration.maxSeconds" label="At most" unit="s" />
        </RequirementRow>
        <RequirementRow
          title="Silence at head and tail"
          grounds="silence"
          asked={watch('silence') !== null}
          onAsk={(on) =>
            setValue(
              'silence',
              on
                ? { head: { minSeconds: 0, maxSeconds: 1 }, tail: { minSeconds: 0, maxSeconds: 5 }, ...NO_GROUNDS }
                : null,
            )
          }
        >
          <NumberField name="silence.head.minSeconds" label="Head, from" unit="s" />
          <NumberField name="silence.head.maxSeconds" label="to" unit="s" />
          <NumberField name="silence.tail.minSeconds" label="Tail, from" unit="s" />
          <NumberField name="silence.tail.maxSeconds" label="to" unit="s" />
        </RequirementRow>
      </Group>
      <Group title="Name and tags">
        <RequirementRow
          title="File name of its own"
          asked={watch('fileNamePattern') !== null}
          onAsk={(on) => setValue('fileNamePattern', on ? STANDARD_PATTERN : null)}
        >
          <Box sx={{ flex: '1 1 320px' }}>
            <NamedField name="fileNamePattern" label="Pattern" hint="Its parts are listed in the settings" />
          </Box>
        </RequirementRow>
        <RequirementRow
          title="Tags filled in"
          grounds="tags"
          asked={tags !== null}
          onAsk={(on) => setValue('tags', on ? { required: ['title', 'artist', 'isrc'], ...NO_GROUNDS } : null)}
        >
          <Box>
            {TAG_NAMES.map((name) => (
              <CheckField
                key={name}
                label={TAG_TITLES[name]}
                checked={tags?.required.includes(name) ?? false}
                onChange={(on) => {
                  const others = tags?.required.filter((each) => each !== name) ?? [];
                  setValue('tags.required', on ? [...others, name] : others);
                }}
              />
            ))}
          </Box>
        </RequirementRow>
        <RequirementRow title="Checksum file" asked={watch('checksum')} onAsk={(on) => setValue('checksum', on)} />
        <RequirementRow
          title="Advice for a lacquer"
          grounds="cutting"
          asked={watch('cutting') !== null}
          onAsk={(on) => setValue('cutting', on ? NO_GROUNDS : null)}
        >
          <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>
            Bass in the side, width and sibilance; it decides nothing.
          </Box>
        </RequirementRow>
      </Group>
    </>
  );
}
