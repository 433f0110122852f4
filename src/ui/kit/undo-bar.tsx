'use client';

import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import { useDone } from './undo-store';

const SHOWN_MS = 12_000;

/** Says what was just deleted and offers to take it back; later that is done in the settings. */
export function UndoBar() {
  const done = useDone((state) => state.done);
  const dismiss = () => useDone.setState({ done: null });
  return (
    <Snackbar
      key={done?.text}
      open={done !== null}
      message={done?.text}
      autoHideDuration={SHOWN_MS}
      onClose={(_, reason) => reason !== 'clickaway' && dismiss()}
      action={
        <Button
          sx={{ color: 'background.paper', textDecoration: 'underline' }}
          onClick={() => {
            done?.undo();
            dismiss();
          }}
        >
          Undo
        </Button>
      }
      slotProps={{ content: { sx: { bgcolor: 'text.primary', color: 'background.paper' } } }}
    />
  );
}
