'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from 'next/link';
import type { ReactNode } from 'react';
import { send } from '../api';
import { useFocusOnEntry } from './focus-on-entry';
import { Mark } from './mark';
import { focusOn, SkipLinks } from './skip-links';
import { ThemeSwitch } from './theme-switch';

export interface Crumb {
  title: string;
  href?: string;
}

/** The way from the list of releases to where one is; `heading` where the page has no other. */
export function Crumbs({ crumbs, heading = false }: { crumbs: Crumb[]; heading?: boolean }) {
  return (
    <Box
      component="nav"
      aria-label="Where you are"
      sx={{ display: 'flex', alignItems: 'baseline', gap: 1.25, minWidth: 0 }}
    >
      {crumbs.map(({ title, href }, i) => (
        <Box key={title} component="span" sx={{ display: 'inline-flex', gap: 1.25, minWidth: 0, whiteSpace: 'nowrap' }}>
          {i > 0 && (
            <Box component="span" aria-hidden sx={{ color: 'text.secondary' }}>
              ▸
            </Box>
          )}
          {href ? (
            <Box
              component={Link}
              href={href}
              title={title}
              sx={{
                ...{ color: 'text.secondary', textDecoration: 'none', overflow: 'hidden', textOverflow: 'ellipsis' },
                '&:hover': { textDecoration: 'underline' },
              }}
            >
              {title}
            </Box>
          ) : (
            <Box
              component={heading ? 'h1' : 'span'}
              aria-current="page"
              title={title}
              sx={{ font: 'inherit', fontWeight: 650, m: 0, overflow: 'hidden', textOverflow: 'ellipsis' }}
            >
              {title}
            </Box>
          )}
        </Box>
      ))}
    </Box>
  );
}

async function signOut() {
  await send('/api/session', { method: 'DELETE' }).catch(() => {});
  window.location.assign('/sign-in');
}

/** What an account keeps for all of its releases. */
const SHELVES = [
  { title: 'Destinations', href: '/destinations' },
  { title: 'References', href: '/references' },
];

/** Head and body of the pages around the workspace. */
export function Page({ crumbs, actions, children }: { crumbs: Crumb[]; actions?: ReactNode; children: ReactNode }) {
  useFocusOnEntry();
  return (
    <Box sx={{ minHeight: '100vh', display: 'flex', flexDirection: 'column' }}>
      <SkipLinks links={[{ title: 'Skip to the content', onChoose: () => focusOn('main') }]} />
      <Box
        component="header"
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 2,
          px: { xs: 1.5, sm: 3 },
          height: 48,
          borderBottom: 1,
          borderColor: 'divider',
          bgcolor: 'background.paper',
        }}
      >
        <Box sx={{ display: { xs: 'none', sm: 'flex' } }}>
          <Mark />
        </Box>
        <Crumbs crumbs={crumbs} />
        <Box sx={{ flex: 1 }} />
        {actions}
        <ThemeSwitch />
        {/* A phone has no room for the shelves, and no use. */}
        {SHELVES.map(({ title, href }) => (
          <Button
            key={href}
            component={Link}
            href={href}
            color="inherit"
            sx={{ display: { xs: 'none', sm: 'inline-flex' }, flexShrink: 0 }}
          >
            {title}
          </Button>
        ))}
        <Button component={Link} href="/settings" color="inherit">
          Settings
        </Button>
        <Button onClick={() => void signOut()} color="inherit">
          Sign out
        </Button>
      </Box>
      <Box
        component="main"
        tabIndex={-1}
        sx={{
          flex: 1,
          outline: 'none !important',
          width: '100%',
          maxWidth: 1120,
          mx: 'auto',
          px: { xs: 1.5, sm: 3 },
          py: { xs: 2, sm: 4 },
        }}
      >
        {children}
      </Box>
    </Box>
  );
}
