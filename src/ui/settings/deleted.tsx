'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { removedListSchema, type Removable } from '../../contracts/release';
import { api, send } from '../api';
import { dateAndTime } from '../kit/format';
import { useOutcome } from './outcome';

const KIND_TITLES: Record<Removable['kind'], string> = {
  release: 'Release',
  track: 'Track',
  mix: 'Mix',
  version: 'Version',
  reference: 'Reference',
  destination: 'Destination',
  link: 'Listening link',
};

/** What was deleted lately, to be restored. */
export function Deleted() {
  const { outcome, attempt } = useOutcome();
  const client = useQueryClient();
  const { data } = useQuery({ queryKey: ['removed'], queryFn: () => api(removedListSchema, '/api/removed') });
  const restore = async (kind: Removable['kind'], id: string, title: string) => {
    const body = { kind, id };
    await attempt(() => send('/api/removed/restored', { method: 'POST', body }), `“${title}” is back.`);
    await client.invalidateQueries();
  };
  return (
    <>
      <Typography color="textSecondary">
        {data?.length === 0 ? 'Nothing was deleted in the last 30 days.' : 'Kept for 30 days, then removed for good.'}
      </Typography>
      <Box component="ul" aria-label="Recently deleted" sx={{ m: 0, p: 0, listStyle: 'none', display: 'grid', gap: 1 }}>
        {data?.map(({ kind, id, title, of, removedAt }) => (
          <Box component="li" key={id} sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <Box sx={{ flex: 1, minWidth: 0 }}>
              {kind === 'mix' ? title : `${KIND_TITLES[kind]} “${title}”`}
              {of && ` of “${of}”`}, deleted {dateAndTime(removedAt)}
            </Box>
            <Button variant="outlined" aria-label={`Restore ${title}`} onClick={() => void restore(kind, id, title)}>
              Restore
            </Button>
          </Box>
        ))}
      </Box>
      {outcome}
    </>
  );
}
