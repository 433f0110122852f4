'use client';

import CheckIcon from '@mui/icons-material/CheckCircleOutlined';
import ListeningIcon from '@mui/icons-material/HeadphonesOutlined';
import WaitingIcon from '@mui/icons-material/HourglassEmptyOutlined';
import DeliveredIcon from '@mui/icons-material/Inventory2Outlined';
import WorkIcon from '@mui/icons-material/TuneOutlined';
import Box from '@mui/material/Box';
import Paper from '@mui/material/Paper';
import Typography from '@mui/material/Typography';
import Link from 'next/link';
import { RELEASE_STATUSES, type ReleaseStatus, type ReleaseSummary } from '../../contracts/release';
import { ActionsMenu, type Action } from '../kit/actions-menu';
import { count } from '../kit/format';

const MARKS: Record<ReleaseStatus, { Icon: typeof CheckIcon; color: string }> = {
  waiting: { Icon: WaitingIcon, color: 'warning.main' },
  working: { Icon: WorkIcon, color: 'text.primary' },
  client: { Icon: ListeningIcon, color: 'text.primary' },
  approved: { Icon: CheckIcon, color: 'success.main' },
  delivered: { Icon: DeliveredIcon, color: 'success.main' },
};

/** What of a release needs a closer look, in a few words; empty when the status says it all. */
function stateWords({ tracks, deliveredTracks, analysing, refused }: ReleaseSummary): string {
  if (analysing > 0) return `Analysing ${count(analysing, 'mix', 'mixes')}`;
  if (refused > 0) return `${count(refused, 'mix', 'mixes')} refused`;
  if (tracks === 0) return 'No tracks yet';
  return deliveredTracks === 0 || deliveredTracks === tracks ? '' : `${deliveredTracks} of ${tracks} tracks delivered`;
}

/** How far a release is: icon and words, never colour alone. */
function StatusMark({ status }: { status: ReleaseStatus }) {
  const { Icon, color } = MARKS[status];
  return (
    <Box component="span" sx={{ display: 'inline-flex', alignItems: 'center', gap: 0.75, fontWeight: 600, color }}>
      <Icon sx={{ fontSize: 18 }} aria-hidden />
      {RELEASE_STATUSES[status]}
    </Box>
  );
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
        <Box component="span" sx={{ display: 'grid', gap: 0.25 }}>
          <StatusMark status={release.status} />
          {stateWords(release) && (
            <Typography component="span" color="textSecondary" sx={{ fontSize: 12.5 }}>
              {stateWords(release)}
            </Typography>
          )}
        </Box>
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
