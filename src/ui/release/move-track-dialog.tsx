'use client';

import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import List from '@mui/material/List';
import ListItemButton from '@mui/material/ListItemButton';
import ListItemText from '@mui/material/ListItemText';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import { releasePageSchema } from '../../contracts/release';
import { api } from '../api';
import { count } from '../kit/format';

/** Chooses the release that a track is moved to. */
export function MoveTrackDialog({
  title,
  releaseId,
  onMove,
  onClose,
}: {
  title: string;
  /** The release that it is in. */
  releaseId: string;
  /** Rejects with a sentence. */
  onMove: (releaseId: string) => Promise<void>;
  onClose: () => void;
}) {
  const [typed, setTyped] = useState('');
  const search = useDeferredValue(typed.trim());
  const [problem, setProblem] = useState<string | null>(null);
  const { data, error } = useQuery({
    queryKey: ['releases to move to', search],
    placeholderData: keepPreviousData,
    queryFn: () => api(releasePageSchema, `/api/releases?${new URLSearchParams({ search }).toString()}`),
  });
  const others = data?.releases.filter(({ id }) => id !== releaseId) ?? [];
  const move = (id: string) => void onMove(id).then(onClose, (caught: Error) => setProblem(sentenceOf(caught)));
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <DialogTitle>Move “{title}” to another release</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary" sx={{ mb: 2 }}>
          Mixes, versions, deliveries and notes go with it. Levels that were set for destinations of this release stay
          behind.
        </Typography>
        <TextField
          autoFocus
          fullWidth
          size="small"
          type="search"
          label="Search releases"
          value={typed}
          onChange={({ target }) => setTyped(target.value)}
          slotProps={{ htmlInput: { maxLength: 100 } }}
        />
        {(problem ?? error) && (
          <Alert severity="error" sx={{ mt: 1 }}>
            {problem ?? (error && sentenceOf(error))}
          </Alert>
        )}
        <List aria-label="Releases" sx={{ maxHeight: 320, overflowY: 'auto' }}>
          {others.map(({ id, title: name, artist, tracks }) => (
            <ListItemButton key={id} onClick={() => move(id)}>
              <ListItemText primary={name} secondary={[artist, count(tracks, 'track')].filter(Boolean).join(', ')} />
            </ListItemButton>
          ))}
        </List>
        {data && others.length === 0 && <Typography color="textSecondary">No other release found.</Typography>}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
      </DialogActions>
    </Dialog>
  );
}
