'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import Link from 'next/link';
import { useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import { shelfSchema } from '../../contracts/destination';
import type { ReleaseDetail } from '../../contracts/release';
import { destinationSentence } from '../../core/deliver/describe';
import type { Destination } from '../../core/deliver/destination';
import { api, send } from '../api';

/** A row of the list: what it asks for, and whether the release has it. */
function Row({
  settings,
  has,
  onChange,
  newer,
  onRenew,
}: {
  settings: Destination;
  has: boolean;
  onChange: (has: boolean) => void;
  newer: Destination | null;
  onRenew: () => void;
}) {
  return (
    <Box component="li" sx={{ display: 'flex', gap: 1, py: 1, borderTop: 1, borderColor: 'divider' }}>
      <Checkbox
        size="small"
        sx={{ alignSelf: 'start' }}
        checked={has}
        slotProps={{ input: { 'aria-label': settings.name } }}
        onChange={(_, on) => onChange(on)}
      />
      <Box sx={{ flex: 1 }}>
        <b>{settings.name}</b>
        <Box>{destinationSentence(settings)}</Box>
        {newer && (
          <Alert severity="info" sx={{ mt: 1 }} action={<Button onClick={onRenew}>Take the shelf’s values</Button>}>
            Your shelf has other values now: {destinationSentence(newer)}
          </Alert>
        )}
      </Box>
    </Box>
  );
}

/** Chooses what a release is delivered for: from the shelf, with the values that it has when it is taken. */
export function ReleaseDestinationsDialog({
  release,
  onChanged,
  onClose,
}: {
  release: ReleaseDetail;
  onChanged: () => void;
  onClose: () => void;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const shelf = useQuery({ queryKey: ['shelf'], queryFn: () => api(shelfSchema, '/api/destinations') });
  const own = `/api/releases/${release.id}/destinations`;
  const ask = async (path: string, options: Parameters<typeof send>[1]) => {
    setProblem(null);
    await send(path, options).catch((caught: unknown) => setProblem(sentenceOf(caught)));
    onChanged();
  };
  const taken = new Map(release.destinations.map((each) => [each.settings.name, each]));
  const others = shelf.data?.filter(({ settings }) => !taken.has(settings.name)) ?? [];
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Destinations of “{release.title}”</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary" sx={{ mb: 1 }}>
          A release keeps the values that it was given. What your{' '}
          <Link href="/destinations" style={{ color: 'inherit' }}>
            shelf
          </Link>{' '}
          has newer is offered here.
        </Typography>
        {problem && <Alert severity="error">{problem}</Alert>}
        {shelf.isPending && <LinearProgress aria-label="Loading the shelf" />}
        <Box component="ul" aria-label="Destinations" sx={{ m: 0, p: 0, listStyle: 'none' }}>
          {release.destinations.map(({ id, settings, newer }) => (
            <Row
              key={id}
              {...{ settings, newer, has: true }}
              onChange={() => void ask(`${own}/${id}`, { method: 'DELETE' })}
              onRenew={() => void ask(`${own}/${id}`, { method: 'PUT' })}
            />
          ))}
          {others.map(({ id, settings }) => (
            <Row
              key={id}
              {...{ settings, newer: null, has: false, onRenew: () => {} }}
              onChange={() => void ask(own, { method: 'POST', body: { shelfId: id } })}
            />
          ))}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button variant="contained" onClick={onClose}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}
