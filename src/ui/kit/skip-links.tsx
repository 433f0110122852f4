'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';

interface SkipLink {
  title: string;
  onChoose: () => void;
}

/** Class of the navigation with these links. */
export const SKIP_LINKS = 'skip-links';

/** Puts the focus on the first element that a selector finds. */
export function focusOn(selector: string): void {
  document.querySelector<HTMLElement>(selector)?.focus();
}

/** The first stops of the Tab key: ways past what stands before what one wants. Seen while one of them has the focus. */
export function SkipLinks({ links }: { links: SkipLink[] }) {
  return (
    <Box
      component="nav"
      className={SKIP_LINKS}
      aria-label="Skip to"
      sx={{
        ...{ position: 'fixed', top: 0, left: 0, zIndex: 1400, p: 1, display: 'flex', gap: 1 },
        ...{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 2 },
        '&:not(:focus-within)': { clipPath: 'inset(50%)' },
      }}
    >
      {links.map(({ title, onChoose }) => (
        <Button key={title} variant="outlined" onClick={onChoose}>
          {title}
        </Button>
      ))}
    </Box>
  );
}
