'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useQueryClient } from '@tanstack/react-query';
import { Controller, useForm } from 'react-hook-form';
import { sentenceOf } from '../../../core/sentence-of';
import { atRest } from '../../../core/house/handles';
import { HOUSE_LANE_SCHEMA, houseLaneSchema, MATERIALS, PURPOSES } from '../../../core/house/house-lane';
import { send } from '../../api';
import { useLane } from '../context';
import { HOUSE_LANES_KEY } from './house-lanes-dialog';

const asked = houseLaneSchema.pick({ name: true, sentence: true, material: true, purpose: true });

/** Keeps the lane as it stands, with its handles, to begin other tracks from. */
export function SaveHouseLane({ onClose }: { onClose: () => void }) {
  const client = useQueryClient();
  const lane = useLane((state) => state.version.lane);
  const { register, control, handleSubmit, formState, setError } = useForm({
    resolver: zodResolver(asked),
    defaultValues: { name: '', sentence: '', material: 'any', purpose: 'finish' } as const,
  });
  const { errors, isSubmitting } = formState;
  const submit = handleSubmit(async (values) => {
    try {
      const body = { schema: HOUSE_LANE_SCHEMA, ...values, lane: atRest(lane, values.name) };
      await send('/api/house-lanes', { method: 'POST', body });
      await client.invalidateQueries({ queryKey: HOUSE_LANES_KEY });
      onClose();
    } catch (error) {
      setError('name', { message: sentenceOf(error) });
    }
  });
  const handles = lane.house?.handles.length ?? 0;
  const chooser = (name: 'material' | 'purpose', label: string, options: Record<string, string>) => (
    <Controller
      name={name}
      control={control}
      render={({ field }) => (
        <TextField select size="small" label={label} {...field}>
          {Object.entries(options).map(([key, title]) => (
            <MenuItem key={key} value={key}>
              {title}
            </MenuItem>
          ))}
        </TextField>
      )}
    />
  );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <form noValidate onSubmit={(event) => void submit(event)}>
        <DialogTitle>Save as a house lane</DialogTitle>
        <DialogContent sx={{ pt: '8px !important', display: 'grid', gap: 2 }}>
          <TextField
            autoFocus
            size="small"
            label="Name"
            {...register('name')}
            error={!!errors.name}
            helperText={errors.name?.message ?? 'What it does for which material'}
          />
          <TextField
            size="small"
            label="Sentence"
            multiline
            {...register('sentence')}
            error={!!errors.sentence}
            helperText={errors.sentence?.message ?? 'When to take it, and what it costs'}
          />
          {chooser('material', 'Material', MATERIALS)}
          {chooser('purpose', 'Purpose', PURPOSES)}
          <span>
            {handles === 0
              ? 'It has no handles yet, only the overall amount. “Add handles” in this menu makes some.'
              : `Its ${handles === 1 ? 'handle rests' : `${handles} handles rest`} where the lane stands now.`}
          </span>
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
