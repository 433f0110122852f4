'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useForm, type DefaultValues, type FieldValues, type Path } from 'react-hook-form';
import type { z } from 'zod';
import { sentenceOf } from '../../core/sentence-of';

interface Field<Values> {
  name: Path<Values>;
  label: string;
  hint?: string;
  lines?: number;
  /** A number that may be left empty. */
  number?: boolean;
}

/** What a release carries, and what a track carries. */
export const RELEASE_FIELDS = [
  { name: 'title', label: 'Title' },
  { name: 'artist', label: 'Artist' },
  { name: 'year', label: 'Year', number: true },
  { name: 'ean', label: 'EAN', hint: '13 digits, as on the sleeve' },
  { name: 'copyright', label: 'Copyright', hint: 'Such as “2026 Ashgrove Dome”' },
  { name: 'notes', label: 'Notes', lines: 3, hint: 'For you: not in files, not in receipts' },
] as const;
export const TRACK_FIELDS = [
  { name: 'title', label: 'Title' },
  { name: 'artist', label: 'Artist', hint: 'Left empty: the artist of the release' },
  { name: 'isrc', label: 'ISRC', hint: '12 characters, such as AA-6Q7-20-00047' },
  { name: 'composer', label: 'Composer' },
  { name: 'copyright', label: 'Copyright', hint: 'Left empty: that of the release' },
  { name: 'notes', label: 'Notes', lines: 3, hint: 'For you: not in files, not in receipts' },
] as const;

/** Asks for what a release or a track is called and carries; it goes into file names and tags. */
export function ParticularsDialog<Values extends FieldValues>({
  title,
  fields,
  schema,
  values,
  onSave,
  onClose,
}: {
  title: string;
  fields: readonly Field<Values>[];
  schema: z.ZodType<Values, Values>;
  values: Values;
  /** Rejects with a sentence when it could not be saved. */
  onSave: (values: Values) => Promise<void>;
  onClose: () => void;
}) {
  const given = Object.fromEntries(fields.map(({ name }) => [name, (values as Record<string, unknown>)[name]]));
  const { register, handleSubmit, formState, setError } = useForm<Values, unknown, Values>({
    resolver: zodResolver(schema),
    defaultValues: given as DefaultValues<Values>,
  });
  const { errors, isSubmitting } = formState;
  const submit = handleSubmit(async (changed) => {
    try {
      await onSave(changed);
      onClose();
    } catch (error) {
      setError(fields[0].name, { message: sentenceOf(error) });
    }
  });
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <form noValidate onSubmit={(event) => void submit(event)}>
        <DialogTitle>{title}</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2, pt: '8px !important' }}>
          {fields.map(({ name, label, hint, lines, number }, index) => (
            <TextField
              key={name}
              autoFocus={index === 0}
              size="small"
              label={label}
              multiline={lines !== undefined}
              minRows={lines}
              {...register(name, number ? { setValueAs: (text) => numberOf(text) } : {})}
              error={!!errors[name]}
              helperText={(errors[name]?.message as string | undefined) ?? hint}
            />
          ))}
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" variant="contained" disabled={isSubmitting}>
            Save
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}

/** What was typed into a field for a number: nothing is null, and what is none stays a text, to be refused in words. */
function numberOf(text: unknown): unknown {
  if (text === null || text === '') return null;
  return Number.isFinite(Number(text)) ? Number(text) : text;
}
