'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { sentenceOf } from '../../core/sentence-of';

/** Asks for a name that a schema accepts; what `onName` throws is said beside the field. */
export function NameDialog({
  title,
  hint,
  action,
  name,
  schema,
  onName,
  onClose,
}: {
  title: string;
  hint: string;
  action: string;
  name: string;
  schema: z.ZodType<string, string>;
  onName: (name: string) => void | Promise<void>;
  onClose: () => void;
}) {
  const { register, handleSubmit, formState, setError } = useForm({
    resolver: zodResolver(z.object({ name: schema })),
    defaultValues: { name },
  });
  const { errors, isSubmitting } = formState;
  const submit = handleSubmit(async (values) => {
    try {
      await onName(values.name);
      onClose();
    } catch (error) {
      setError('name', { message: sentenceOf(error) });
    }
  });
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <form noValidate onSubmit={(event) => void submit(event)}>
        <DialogTitle>{title}</DialogTitle>
        <DialogContent sx={{ pt: '8px !important' }}>
          <TextField
            autoFocus
            fullWidth
            size="small"
            label="Name"
            {...register('name')}
            error={!!errors.name}
            helperText={errors.name?.message ?? hint}
          />
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" variant="contained" disabled={isSubmitting}>
            {action}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
