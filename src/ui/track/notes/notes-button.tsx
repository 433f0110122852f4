'use client';

import NotesIcon from '@mui/icons-material/EditNoteOutlined';
import IconButton from '@mui/material/IconButton';
import Popover from '@mui/material/Popover';
import Tooltip from '@mui/material/Tooltip';
import { useRef } from 'react';
import { withKey } from '../key-table';
import { NotesPanel } from './notes-panel';

/** Opens the notes on the programme. */
export function NotesButton({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const button = useRef<HTMLButtonElement>(null);
  return (
    <>
      <Tooltip title={withKey('Notes on the programme, and named loops', 'note')}>
        <IconButton ref={button} size="small" aria-label="Notes" aria-haspopup="dialog" onClick={() => onOpen(true)}>
          <NotesIcon fontSize="small" />
        </IconButton>
      </Tooltip>
      <Popover
        open={open}
        anchorEl={() => button.current!}
        onClose={() => onOpen(false)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        slotProps={{ paper: { 'aria-label': 'Notes', role: 'dialog', sx: { width: 560, maxHeight: '76vh', p: 2 } } }}
      >
        <NotesPanel />
      </Popover>
    </>
  );
}
