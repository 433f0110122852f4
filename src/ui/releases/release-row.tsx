'use client';

import Box from '@mui/material/Box';
import Paper from '@mui/material/Paper';
import Typography from '@mui/material/Typography';
import Link from 'next/link';
import type { ReleaseSummary } from '../../contracts/release';
import { ActionsMenu, type Action } from '../kit/actions-menu';
import { count } from '../kit/format';

/** How far a release is, in a few words. */
function stateWords({ tracks, deliveredTracks, analysing, refused }: ReleaseSummary): string {
  if (analysing > 0) return `Analysing ${count(analysing, 'mix', 'mixes')}`;
  if (refused > 0) return `${count(refused, 'mix', 'mixes')} refused`;
  if (tracks === 0) return 'No tracks yet';
  if (deliveredTracks === 0) return 'Nothing delivered yet';
  return deliveredTracks === tracks ? 'All tracks delivered' : `${deliveredTracks} of ${tracks} tracks delivered`;
}

/** A release in the list: what is in it, how far it is, and what can be done with it. */
export function ReleaseRow({ release, actions }: { release: ReleaseSummary; actions: Action[] }) {
  const { id, title, artist, tracks, deliveries, createdAt } = release;
  return (
    <Paper
      variant="outlined"
      sx={{ display: 'flex', alignItems: 'center', pr: 1, '&:hover': { borderColor: 'text.secondary' } }}
    >
      <Box
        component={Link}
        href={`/releases/${id}`}
        sx={{
          ...{ px: 2.5, py: 1.75, display: 'grid', alignItems: 'center', gap: 2, flex: 1, minWidth: 0 },
          gridTemplateColumns: { xs: '1fr auto', md: '1fr 90px 110px 200px 110px' },
          ...{ color: 'inherit', textDecoration: 'none', borderRadius: 2 },
        }}
      >
        <Box sx={{ minWidth: 0 }}>
          <Typography variant="h2" noWrap>
            {title}
          </Typography>
          <Typography color="textSecondary" noWrap>
            {artist || 'No artist'}
          </Typography>
        </Box>
        <Box component="span" sx={{ display: { xs: 'none', md: 'block' } }}>
          {count(tracks, 'track')}
        </Box>
        <Box component="span" sx={{ display: { xs: 'none', md: 'block' } }}>
          {count(deliveries, 'delivery', 'deliveries')}
        </Box>
        <span>{stateWords(release)}</span>
        <Typography
          component="span"
          color="textSecondary"
          sx={{ textAlign: 'right', display: { xs: 'none', md: 'block' } }}
        >
          {new Date(createdAt).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })}
        </Typography>
      </Box>
      <ActionsMenu of={title} actions={actions} />
    </Paper>
  );
}
