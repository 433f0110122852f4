'use client';

import CheckIcon from '@mui/icons-material/CheckCircleOutlined';
import NoteIcon from '@mui/icons-material/ChatBubbleOutlineOutlined';
import ProposalIcon from '@mui/icons-material/TuneOutlined';
import PreferenceIcon from '@mui/icons-material/HearingOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Paper from '@mui/material/Paper';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import Link from 'next/link';
import { useState } from 'react';
import { type InboxItem, inboxSchema } from '../../contracts/listening';
import { api, send } from '../api';
import { clock, dateAndTime } from '../kit/format';

const POLL_MS = 15_000;
/** Answers that are listed at first. */
const SHOWN = 4;

const ICONS = { note: NoteIcon, approval: CheckIcon, preference: PreferenceIcon, proposal: ProposalIcon };
/** What someone did with a track. */
const DID = { note: 'on', approval: 'approved', preference: 'took the blind test on', proposal: 'proposes for' };

function Answer({ item }: { item: InboxItem }) {
  const { kind, author, track, trackId, release, text, seconds, at, seen } = item;
  const Icon = ICONS[kind];
  const place = kind === 'note' && seconds !== null ? `?at=${seconds}` : '';
  return (
    <Box
      component="li"
      sx={{ display: 'flex', gap: 1.25, py: 0.75, borderTop: 1, borderColor: 'divider', alignItems: 'baseline' }}
    >
      <Icon sx={{ fontSize: 17, alignSelf: 'center', color: 'text.secondary' }} aria-hidden />
      <Box sx={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere', fontWeight: seen ? 400 : 600 }}>
        {author} {DID[kind]}{' '}
        <Box component={Link} href={`/tracks/${trackId}${place}`} sx={{ color: 'inherit' }}>
          {track}
        </Box>
        {kind === 'note' && `, ${clock(seconds ?? 0)}: “${text}”`}
        {kind === 'preference' && `. ${text}`}
        {kind === 'proposal' && `: ${text}`}
      </Box>
      <Typography color="textSecondary" sx={{ fontSize: 12.5, textAlign: 'right' }}>
        {release}, {dateAndTime(at)}
      </Typography>
    </Box>
  );
}

/** What listeners answered, above the list of releases; nothing until somebody did. */
export function Inbox() {
  const client = useQueryClient();
  const [all, setAll] = useState(false);
  const { data } = useQuery({
    queryKey: ['inbox'],
    queryFn: () => api(inboxSchema, '/api/inbox'),
    refetchInterval: POLL_MS,
  });
  if (!data || data.items.length === 0) return null;
  const { items, unseen } = data;
  const shown = all ? items : items.filter(({ seen }) => !seen).slice(0, SHOWN);
  const markSeen = async () => {
    await send('/api/inbox', { method: 'POST', body: { until: items[0].at } }).catch(() => {});
    await client.invalidateQueries({ queryKey: ['inbox'] });
  };
  return (
    <Paper component="section" aria-label="From listeners" variant="outlined" sx={{ px: 2.5, py: 1.25, mt: 3 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <Typography variant="h3" component="h2" sx={{ flex: 1 }}>
          From listeners{unseen > 0 ? `: ${unseen} new` : ''}
        </Typography>
        {(all || items.length > shown.length) && (
          <Button color="inherit" aria-expanded={all} onClick={() => setAll(!all)}>
            {all ? 'Only new ones' : `Show all ${items.length}`}
          </Button>
        )}
        {unseen > 0 && (
          <Button color="inherit" onClick={() => void markSeen()}>
            Mark as seen
          </Button>
        )}
      </Box>
      {shown.length > 0 && (
        <Box component="ol" sx={{ listStyle: 'none', m: 0, mt: 0.5, p: 0 }}>
          {shown.map((item) => (
            <Answer key={`${item.kind} ${item.id}`} item={item} />
          ))}
        </Box>
      )}
    </Paper>
  );
}
