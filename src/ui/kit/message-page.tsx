import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { Mark } from './mark';

/** A page that only says something, and offers what to do: for whoever is signed in or not. */
export function MessagePage({ title, children, action }: { title: string; children: ReactNode; action: ReactNode }) {
  return (
    <Box
      component="main"
      sx={{ maxWidth: 520, mx: 'auto', px: 3, py: 12, display: 'grid', gap: 2, justifyItems: 'start' }}
    >
      <Mark />
      <Typography variant="h1">{title}</Typography>
      <Typography>{children}</Typography>
      {action}
    </Box>
  );
}
