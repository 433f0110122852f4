'use client';

import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import List from '@mui/material/List';
import ListItem from '@mui/material/ListItem';
import ListItemText from '@mui/material/ListItemText';
import { useState } from 'react';
import { sentenceOf } from '../../../core/sentence-of';
import type { ImpulseSummary } from '../../../contracts/impulse';
import { send } from '../../api';
import { figure } from '../../kit/format';
import { useEditor } from '../../track/context';

/** Your impulse responses; those that no room uses can be removed. */
export function ImpulsesDialog({
  files,
  onRemoved,
  onClose,
}: {
  files: ImpulseSummary[];
  onRemoved: (id: string) => void;
  onClose: () => void;
}) {
  const editor = useEditor();
  const [problem, setProblem] = useState<string | null>(null);
  const remove = async (id: string) => {
    setProblem(null);
    try {
      // A room that was changed a moment ago must not count as using it.
      await editor.lane.flush();
      await send(`/api/impulses/${id}`, { method: 'DELETE' });
      onRemoved(id);
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <DialogTitle>Impulse responses</DialogTitle>
      <DialogContent>
        {files.length === 0 && 'You have not uploaded any yet.'}
        <List dense aria-label="Impulse responses">
          {files.map(({ id, name, seconds }) => (
            <ListItem
              key={id}
              disableGutters
              secondaryAction={
                <Button color="inherit" aria-label={`Remove ${name}`} onClick={() => void remove(id)}>
                  Remove
                </Button>
              }
            >
              <ListItemText primary={name} secondary={`${figure(seconds)} s`} />
            </ListItem>
          ))}
        </List>
        {problem && <Alert severity="error">{problem}</Alert>}
      </DialogContent>
      <DialogActions>
        <Button variant="contained" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
