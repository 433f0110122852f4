'use client';

import DownIcon from '@mui/icons-material/KeyboardArrowDown';
import UpIcon from '@mui/icons-material/KeyboardArrowUp';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { useState, type ReactNode } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import { newVersionSchema } from '../../contracts/version';
import { EditableTitle } from '../kit/editable-title';
import { dateAndTime } from '../kit/format';
import { offerUndo } from '../kit/undo-store';
import { useEditor, useLane, useTrack } from './context';

/** The versions of the track: rename, reorder and delete. */
export function VersionsDialog({ onClose }: { onClose: () => void }) {
  const editor = useEditor();
  const versions = useTrack((state) => state.details.versions);
  const open = useLane((state) => state.version.id);
  const [problem, setProblem] = useState<string | null>(null);
  const attempt = (work: () => Promise<void>) =>
    void work()
      .then(() => setProblem(null))
      .catch((error: unknown) => setProblem(sentenceOf(error)));
  const move = (from: number, to: number) => {
    const ids = versions.map(({ id }) => id);
    ids.splice(to, 0, ...ids.splice(from, 1));
    attempt(() => editor.orderVersions(ids));
  };
  const remove = (id: string, name: string) =>
    attempt(async () => {
      await editor.removeVersion(id);
      offerUndo(`Version “${name}” is deleted`, () => attempt(() => editor.restoreVersion(id)));
    });
  const button = (title: string, icon: ReactNode, onClick: () => void, disabled: boolean) => (
    <Tooltip title={title}>
      <span>
        <IconButton size="small" aria-label={title} onClick={onClick} disabled={disabled}>
          {icon}
        </IconButton>
      </span>
    </Tooltip>
  );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Versions</DialogTitle>
      <DialogContent>
        {problem && <Alert severity="error">{problem}</Alert>}
        <Box component="ol" aria-label="Versions" sx={{ m: 0, p: 0, listStyle: 'none' }}>
          {versions.map(({ id, name, createdAt }, i) => (
            <Box
              component="li"
              key={id}
              sx={{ display: 'flex', alignItems: 'center', gap: 1, py: 1, borderBottom: 1, borderColor: 'divider' }}
            >
              <Box sx={{ flex: 1, minWidth: 0 }}>
                <EditableTitle
                  variant="h3"
                  title={name}
                  schema={newVersionSchema.shape.name}
                  onRename={(next) => attempt(() => editor.renameVersion(id, next))}
                />
                <Typography color="textSecondary" sx={{ fontSize: 12.5 }}>
                  Saved {dateAndTime(createdAt)}
                  {id === open && ', open now'}
                </Typography>
              </Box>
              {button(`Move ${name} up`, <UpIcon fontSize="small" />, () => move(i, i - 1), i === 0)}
              {button(
                `Move ${name} down`,
                <DownIcon fontSize="small" />,
                () => move(i, i + 1),
                i === versions.length - 1,
              )}
              {button(`Delete ${name}`, <DeleteIcon fontSize="small" />, () => remove(id, name), versions.length === 1)}
            </Box>
          ))}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
