'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { useState, type ReactNode } from 'react';
import { get, useFormContext, type FieldPath } from 'react-hook-form';
import type { Destination } from '../../core/deliver/destination';

/** A place in a destination; those of requirements that are not asked for, too. */
export type Place = FieldPath<Destination>;

/** The message for a place; undefined when there is none. */
function useMessage(name: string): string | undefined {
  const { errors } = useFormContext<Destination>().formState;
  const found: unknown = get(errors, name);
  return found && typeof found === 'object' && 'message' in found ? String(found.message) : undefined;
}

/** A text of a destination. */
export function NamedField({ name, label, hint }: { name: Place; label: string; hint?: string }) {
  const { register } = useFormContext<Destination>();
  const message = useMessage(name);
  return (
    <TextField
      {...{ size: 'small', label, fullWidth: true, error: message !== undefined, helperText: message ?? hint }}
      {...register(name)}
    />
  );
}

/** A number of a destination with its unit. */
export function NumberField({ name, label, unit }: { name: Place; label: string; unit: string }) {
  const { register } = useFormContext<Destination>();
  const message = useMessage(name);
  return (
    <TextField
      {...{ size: 'small', label: `${label}, ${unit}`, error: message !== undefined, helperText: message }}
      sx={{ width: 150 }}
      slotProps={{ htmlInput: { inputMode: 'decimal' } }}
      {...register(name, { setValueAs: readNumber })}
    />
  );
}

/** A number as it is typed: with a true or a plain minus, a comma or a point. */
function readNumber(typed: unknown): unknown {
  if (typeof typed !== 'string') return typed;
  const text = typed.trim().replace('\u2212', '-').replace(',', '.');
  return text === '' ? NaN : Number(text);
}

/** A yes or no of a destination. */
export function CheckField({
  label,
  checked,
  onChange,
}: {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}) {
  return (
    <FormControlLabel
      label={label}
      control={<Checkbox size="small" checked={checked} onChange={(_, on) => onChange(on)} />}
    />
  );
}

/** A heading over requirements that belong together. */
export function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box component="section" aria-label={title} sx={{ mb: 2 }}>
      <Box component="h3" sx={{ m: 0, mb: 0.5, fontSize: 14 }}>
        {title}
      </Box>
      {children}
    </Box>
  );
}

/** One requirement: asked for or not, its values, and on request why and who says so. */
export function RequirementRow({
  title,
  grounds,
  asked = true,
  onAsk,
  children,
}: {
  title: string;
  /** Where its reason and source are kept; left out: it has none. */
  grounds?: string;
  asked?: boolean;
  /** Left out: it is always asked for. */
  onAsk?: (asked: boolean) => void;
  children?: ReactNode;
}) {
  const [explaining, setExplaining] = useState(false);
  return (
    <Box role="group" aria-label={title} sx={{ borderTop: 1, borderColor: 'divider', py: 0.75 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', flexWrap: 'wrap', gap: 1.5, minHeight: 40 }}>
        <Box sx={{ width: 190 }}>
          {onAsk ? <CheckField label={title} checked={asked} onChange={onAsk} /> : <Box sx={{ pl: 0.5 }}>{title}</Box>}
        </Box>
        {asked && children}
        <Box sx={{ flex: 1 }} />
        {asked && grounds && (
          <Button
            color="inherit"
            aria-expanded={explaining}
            aria-label={`Reason for ${title}`}
            onClick={() => setExplaining(!explaining)}
          >
            Reason
          </Button>
        )}
      </Box>
      {asked && grounds && explaining && (
        <Box sx={{ display: 'grid', gridTemplateColumns: '2fr 1fr', gap: 1.5, mt: 1 }}>
          <NamedField name={`${grounds}.reason` as Place} label="Reason" />
          <NamedField
            name={`${grounds}.source` as Place}
            label="Source"
            hint="Left empty: that of the whole destination"
          />
        </Box>
      )}
    </Box>
  );
}
