'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import Link from 'next/link';
import { useForm, type Resolver } from 'react-hook-form';
import { NAME_PARTS, nameByPattern, patternProblem } from '../../core/deliver/file-name';
import { type AccountSettings, accountSettingsSchema } from '../../contracts/account';
import { send } from '../api';
import { useOutcome } from './outcome';

const EXAMPLE = {
  ...{ artist: 'The Ashgrove Dome Ensemble', release: 'Slow Orbits', position: '02', title: 'Long Dusk' },
  ...{ destination: 'Disc', version: 'First version', isrc: 'AA6Q72000047', ean: '6291041500213', year: '2026' },
};

/** What deliveries begin with. */
export function DeliveriesForm({ settings, onChanged }: { settings: AccountSettings; onChanged: () => void }) {
  const { outcome, attempt } = useOutcome();
  const { register, handleSubmit, formState, watch } = useForm<AccountSettings>({
    resolver: zodResolver(accountSettingsSchema) as Resolver<AccountSettings>,
    defaultValues: settings,
  });
  const { errors, isSubmitting } = formState;
  const pattern = watch('fileNamePattern');
  const problem = patternProblem(pattern);
  const save = handleSubmit(async (body) => {
    if (await attempt(() => send('/api/account/settings', { method: 'PUT', body }), 'Saved.')) onChanged();
  });
  return (
    <Box component="form" noValidate onSubmit={(event) => void save(event)} sx={{ display: 'grid', gap: 1.5 }}>
      <Typography>
        What a release can be delivered for stands on the{' '}
        <Link href="/destinations" style={{ color: 'inherit' }}>
          destinations
        </Link>{' '}
        shelf.
      </Typography>
      <TextField
        size="small"
        label="File name"
        {...register('fileNamePattern')}
        error={problem !== null}
        helperText={problem ?? `Such as “${nameByPattern(pattern, EXAMPLE)}.wav”`}
      />
      <Typography color="textSecondary" sx={{ fontSize: 12.5 }}>
        Parts:{' '}
        {Object.entries(NAME_PARTS)
          .map(
            ([part, what]) =>
              `{${part}} ${what.toLowerCase().replace(/\b(isrc|ean)\b/g, (word) => word.toUpperCase())}`,
          )
          .join(', ')}
        . A part without a value is left out, with the separator after it.
      </Typography>
      <TextField
        size="small"
        label="Studio, for receipts"
        {...register('studio')}
        error={!!errors.studio}
        helperText={errors.studio?.message}
      />
      <TextField
        size="small"
        label="Engineer, for receipts"
        {...register('engineer')}
        error={!!errors.engineer}
        helperText={errors.engineer?.message}
      />
      {outcome}
      <Button type="submit" variant="contained" disabled={isSubmitting} sx={{ justifySelf: 'start' }}>
        Save
      </Button>
    </Box>
  );
}
