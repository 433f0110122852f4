'use client';

import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import FormGroup from '@mui/material/FormGroup';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import { count } from '../kit/format';
import { useEditor, useTrack } from './context';

/** Copies the lane to other tracks of the release, as a step in the history of each. */
export function CopyLaneDialog({ onClose }: { onClose: () => void }) {
  const editor = useEditor();
  const { tracks, track } = useTrack((state) => state.details);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const copy = () => {
    setBusy(true);
    editor.copyLaneTo(chosen).then(onClose, (error: Error) => {
      setProblem(sentenceOf(error));
      setBusy(false);
    });
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <DialogTitle>Copy this lane to other tracks</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary" sx={{ mb: 1 }}>
          It replaces the lane of the version that was last open there. Undo in that track takes it back.
        </Typography>
        <FormGroup>
          {tracks
            .filter(({ id }) => id !== track.id)
            .map(({ id, position, title }) => (
              <FormControlLabel
                key={id}
                label={`${position} · ${title}`}
                control={
                  <Checkbox
                    size="small"
                    checked={chosen.includes(id)}
                    onChange={(_, on) => setChosen(on ? [...chosen, id] : chosen.filter((each) => each !== id))}
                  />
                }
              />
            ))}
        </FormGroup>
        {problem && <Alert severity="error">{problem}</Alert>}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button variant="contained" disabled={busy || chosen.length === 0} onClick={copy}>
          {chosen.length === 0 ? 'Copy' : `Copy to ${count(chosen.length, 'track')}`}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
