'use client';

import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { useFieldArray, useFormContext } from 'react-hook-form';
import type { Destination } from '../../core/deliver/destination';
import { CODECS, ENCODE_RATES } from '../../core/deliver/encode';
import { ChoiceField } from '../kit/choice-field';
import { Group, NumberField, RequirementRow } from './requirement-row';

const CODEC_OPTIONS = CODECS.map((value) => ({ value, title: value }));
export const RATE_OPTIONS = ENCODE_RATES.map((value) => ({ value, title: `${value} kb/s` }));
const MOST = 4;

/** Encodes that a delivery is checked in. */
export function EncodeFields() {
  const { control, watch, setValue } = useFormContext<Destination>();
  const { fields, append, remove } = useFieldArray({ control, name: 'encodes' });
  return (
    <Group title="Peaks in what listeners get">
      {fields.map(({ id }, i) => (
        <RequirementRow key={id} title={`Encode ${i + 1}`} grounds={`encodes.${i}`}>
          <ChoiceField
            {...{ label: 'Codec', value: watch(`encodes.${i}.codec`), options: CODEC_OPTIONS, width: 120 }}
            onChange={(codec) => setValue(`encodes.${i}.codec`, codec)}
          />
          <ChoiceField
            {...{ label: 'Rate', value: watch(`encodes.${i}.kbps`), options: RATE_OPTIONS, width: 130 }}
            onChange={(kbps) => setValue(`encodes.${i}.kbps`, kbps)}
          />
          <NumberField name={`encodes.${i}.maxDbtp`} label="At most" unit="dBTP" />
          <IconButton aria-label={`Remove encode ${i + 1}`} onClick={() => remove(i)}>
            <DeleteIcon fontSize="small" />
          </IconButton>
        </RequirementRow>
      ))}
      <Button
        color="inherit"
        disabled={fields.length >= MOST}
        onClick={() => append({ codec: 'AAC', kbps: 256, maxDbtp: 0, reason: '', source: '' })}
      >
        Add an encode
      </Button>
    </Group>
  );
}
