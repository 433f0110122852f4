'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { sentenceOf } from '../../../core/sentence-of';
import {
  type ChangeLink,
  createdLinkSchema,
  linkListSchema,
  type LinkSummary,
  type NewLink,
} from '../../../contracts/listening';
import type { ReleaseDetail } from '../../../contracts/release';
import { api, send } from '../../api';
import { count, dateAndTime } from '../../kit/format';
import { offerUndo } from '../../kit/undo-store';
import { NewLinkForm } from './new-link-form';

const POLL_MS = 700;
const UNDER_WAY: readonly string[] = ['waiting', 'rendering'];

/** Whether a link works, and how far it was used, in a sentence. */
function usage({ revokedAt, expiresAt, visits, lastVisitAt }: LinkSummary): string {
  const ended = revokedAt !== null || (expiresAt !== null && new Date(expiresAt).getTime() <= Date.now());
  const until =
    revokedAt !== null
      ? 'Revoked'
      : expiresAt === null
        ? 'Never expires'
        : `${ended ? 'Expired' : 'Expires'} ${dateAndTime(expiresAt)}`;
  const opened =
    lastVisitAt === null ? 'not opened yet' : `opened ${count(visits, 'time')}, last ${dateAndTime(lastVisitAt)}`;
  return `${until}; ${opened}.`;
}

function LinkRow({
  link,
  onChange,
  onRemove,
}: {
  link: LinkSummary;
  onChange: (change: ChangeLink) => void;
  onRemove: () => void;
}) {
  const [copied, setCopied] = useState(false);
  const { recipient, path, status, progress, problem, heldBecause, tracks, revokedAt, expiresAt } = link;
  const copy = (url: string) =>
    void navigator.clipboard.writeText(url).then(
      () => setCopied(true),
      () => window.prompt('Copy this address:', url),
    );
  const extras = [
    link.protected && 'passphrase',
    link.lossless && 'lossless',
    link.download && 'downloads',
    link.handles && 'handles',
  ];
  return (
    <Box
      component="article"
      aria-label={`Link for ${recipient}`}
      sx={{ borderTop: 1, borderColor: 'divider', py: 1.25 }}
    >
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 1, alignItems: 'baseline' }}>
        <Box sx={{ flex: 1, minWidth: 160, fontWeight: 600, overflowWrap: 'anywhere' }}>{recipient}</Box>
        <Typography color="textSecondary" sx={{ fontSize: 13 }}>
          {extras.filter(Boolean).join(', ')}
        </Typography>
      </Box>
      <Typography color="textSecondary">
        {tracks.map(({ title, versions }) => `${title} (${versions.join(', ')})`).join('; ')}
      </Typography>
      <Typography>{usage(link)}</Typography>
      {revokedAt === null && UNDER_WAY.includes(status) && (
        <>
          <Typography color="textSecondary">
            {heldBecause ?? (status === 'waiting' ? 'Waiting for its turn' : 'Rendering the streams')}
            {link.ready
              ? '; until then the page plays what it had.'
              : '; the page opens by itself when they are there.'}
          </Typography>
          <LinearProgress variant="determinate" value={100 * progress} aria-label={`Progress for ${recipient}`} />
        </>
      )}
      {problem && <Alert severity="error">{problem}</Alert>}
      {path === null && (
        <Alert severity="warning">
          This server has another secret than when the link was made, so its address can’t be shown. The old address
          still works for whoever has it.
        </Alert>
      )}
      <Box sx={{ display: 'flex', flexWrap: 'wrap' }}>
        {path === null ? (
          <Button onClick={() => onChange({ newAddress: true })}>Give it a new address</Button>
        ) : (
          <>
            <Button onClick={() => copy(`${window.location.origin}${path}`)}>
              {copied ? 'Copied' : 'Copy the address'}
            </Button>
            <Button component="a" href={path} target="_blank" rel="noopener" color="inherit">
              Open
            </Button>
          </>
        )}
        <Button
          color="inherit"
          title="Renders the same tracks again as their versions are now; the address stays"
          disabled={UNDER_WAY.includes(status)}
          onClick={() => onChange({ update: true })}
        >
          Update
        </Button>
        <Box sx={{ flex: 1 }} />
        {expiresAt !== null && (
          <Button color="inherit" onClick={() => onChange({ expiresAt: null })}>
            Never expire
          </Button>
        )}
        <Button color="inherit" onClick={() => onChange({ revoked: revokedAt === null })}>
          {revokedAt === null ? 'Revoke' : 'Open again'}
        </Button>
        <Button color="inherit" onClick={onRemove}>
          Delete
        </Button>
      </Box>
    </Box>
  );
}

/** The listening links of a release. */
export function LinksDialog({ release, onClose }: { release: ReleaseDetail; onClose: () => void }) {
  const client = useQueryClient();
  const path = `/api/releases/${release.id}/links`;
  const queryKey = ['links', release.id];
  const { data, error } = useQuery({
    queryKey,
    queryFn: () => api(linkListSchema, path),
    refetchInterval: ({ state }) => (state.data?.some(({ status }) => UNDER_WAY.includes(status)) ? POLL_MS : false),
  });
  const [making, setMaking] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const tracks = release.tracks.filter(({ master }) => master);
  const refresh = () => client.invalidateQueries({ queryKey });
  const then = (work: Promise<unknown>) =>
    void work
      .then(() => setProblem(null))
      .catch((caught: Error) => setProblem(sentenceOf(caught)))
      .finally(() => void refresh());
  const remove = async ({ id, recipient }: LinkSummary) => {
    await send(`/api/links/${id}`, { method: 'DELETE' });
    const body = { kind: 'link', id };
    offerUndo(`The link for ${recipient} is deleted`, () =>
      then(send('/api/removed/restored', { method: 'POST', body })),
    );
  };
  const create = async (body: NewLink) => {
    await api(createdLinkSchema, path, { method: 'POST', body });
    setMaking(false);
    await refresh();
  };
  const none = data?.length === 0;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md">
      <DialogTitle>Listening page of “{release.title}”</DialogTitle>
      <DialogContent>
        {(problem ?? error) && (
          <Alert severity="error" sx={{ mb: 1.5 }}>
            {problem ?? (error && sentenceOf(error))}
          </Alert>
        )}
        {making || none ? (
          <>
            {none && (
              <Typography color="textSecondary">
                A link opens a page on any phone or computer, without an account: your client hears the masters,
                compares them with the mixes, writes notes at a moment, and approves.
              </Typography>
            )}
            <NewLinkForm tracks={tracks} onCreate={create} onCancel={() => (none ? onClose() : setMaking(false))} />
          </>
        ) : (
          data?.map((link) => (
            <LinkRow
              key={link.id}
              link={link}
              onChange={(body) => then(send(`/api/links/${link.id}`, { method: 'PATCH', body }))}
              onRemove={() => then(remove(link))}
            />
          ))
        )}
      </DialogContent>
      {/* The form of a new link has buttons of its own. */}
      <DialogActions sx={{ display: making || none ? 'none' : undefined }}>
        <Button variant="outlined" onClick={() => setMaking(true)}>
          New link…
        </Button>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
