'use client';

import Alert from '@mui/material/Alert';
import Badge from '@mui/material/Badge';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import HandlesIcon from '@mui/icons-material/TuneOutlined';
import Popover from '@mui/material/Popover';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { sentenceOf } from '../../../core/sentence-of';
import { type Proposal, proposalListSchema } from '../../../contracts/proposal';
import { versionStateSchema } from '../../../contracts/version';
import { api, send } from '../../api';
import { dateAndTime } from '../../kit/format';
import { useEditor, useLane, useTrack } from '../context';

const POLL_MS = 15_000;

/** One proposal: what it changes, and the answer. */
function ProposalRow({
  proposal,
  heard,
  onHear,
  onTake,
  onRefuse,
}: {
  proposal: Proposal;
  heard: boolean;
  /** Null where it is of another version than the open one. */
  onHear: ((on: boolean) => void) | null;
  onTake: () => void;
  onRefuse: () => void;
}) {
  const { author, madeAt, changes, version, lane, moved, decision } = proposal;
  return (
    <Box component="li" sx={{ py: 1, borderTop: 1, borderColor: 'divider' }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
        <Box sx={{ flex: 1, fontWeight: decision ? 400 : 650 }}>{changes}</Box>
        {decision && <Typography color="textSecondary">{decision}</Typography>}
      </Box>
      <Typography color="textSecondary" sx={{ fontSize: 12.5 }}>
        {author}, {dateAndTime(madeAt)}, for “{version}”
      </Typography>
      {!decision && moved && lane && (
        <Typography sx={{ fontSize: 12.5 }}>
          The version was changed since; taken, it moves the handles of the version as it is now.
        </Typography>
      )}
      {!decision && !lane && (
        <Typography sx={{ fontSize: 12.5 }}>The handles of this version are others by now.</Typography>
      )}
      {!decision && (
        <Box sx={{ display: 'flex' }}>
          {lane && onHear && (
            <Button color="inherit" aria-pressed={heard} onClick={() => onHear(!heard)}>
              Hear it
            </Button>
          )}
          <Box sx={{ flex: 1 }} />
          <Button color="inherit" onClick={onRefuse}>
            Refuse
          </Button>
          <Button disabled={!lane} onClick={onTake}>
            Take as one step
          </Button>
        </Box>
      )}
    </Box>
  );
}

/** Opens what others propose for the handles of this track; nothing until somebody did. */
export function ProposalsButton() {
  const editor = useEditor();
  const client = useQueryClient();
  const trackId = useTrack(({ details }) => details.track.id);
  const { id: versionId } = useLane((state) => state.version);
  const button = useRef<HTMLButtonElement>(null);
  const list = useRef<HTMLOListElement>(null);
  const [open, setOpen] = useState(false);
  const [heard, setHeard] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const queryKey = ['proposals', trackId];
  const { data } = useQuery({
    queryKey,
    queryFn: () => api(proposalListSchema, `/api/tracks/${trackId}/proposals`),
    refetchInterval: POLL_MS,
  });
  if (!data || data.length === 0) return null;
  const waiting = data.filter(({ decision }) => decision === null).length;
  const hear = (proposal: Proposal | null) => {
    setHeard(proposal?.id ?? null);
    editor.audition.preview(proposal?.lane ? () => proposal.lane!.stages : null);
  };
  const then = (work: () => Promise<unknown>) => {
    // The pressed button goes with its answer; the focus stays in the list, and keys keep working.
    list.current?.focus();
    void work()
      .then(() => setProblem(null))
      .catch((caught: Error) => setProblem(sentenceOf(caught)))
      .finally(() => void client.invalidateQueries({ queryKey }));
  };
  const decide = (id: string) => `/api/proposals/${id}`;
  const take = async (proposal: Proposal) => {
    hear(null);
    if (proposal.versionId !== versionId)
      throw new Error(`Open “${proposal.version}” first: that is what the proposal is for.`);
    // What is changed here goes first: the proposal is a step of its own after it.
    await editor.lane.flush();
    const body = { decision: 'taken', after: editor.lane.version.step };
    const version = await api(versionStateSchema, decide(proposal.id), { method: 'POST', body });
    editor.lane.useTheirs(version);
  };
  return (
    <>
      <Tooltip title="Proposals: handles that somebody moved on a phone">
        <IconButton
          ref={button}
          size="small"
          aria-label={`Proposals, ${waiting} to answer`}
          aria-haspopup="dialog"
          onClick={() => setOpen(true)}
        >
          <Badge badgeContent={waiting} color="primary">
            <HandlesIcon fontSize="small" />
          </Badge>
        </IconButton>
      </Tooltip>
      <Popover
        open={open}
        anchorEl={() => button.current!}
        onClose={() => {
          hear(null);
          setOpen(false);
        }}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        slotProps={{
          paper: { 'aria-label': 'Proposals', role: 'dialog', sx: { width: 460, maxHeight: '76vh', p: 2 } },
        }}
      >
        <Typography variant="h3" component="h2">
          Proposals
        </Typography>
        {problem && <Alert severity="error">{problem}</Alert>}
        <Box component="ol" ref={list} tabIndex={-1} sx={{ listStyle: 'none', m: 0, mt: 1, p: 0 }}>
          {data.map((proposal) => (
            <ProposalRow
              key={proposal.id}
              proposal={proposal}
              heard={heard === proposal.id}
              onHear={proposal.versionId === versionId ? (on) => hear(on ? proposal : null) : null}
              onTake={() => then(() => take(proposal))}
              onRefuse={() => then(() => send(decide(proposal.id), { method: 'POST', body: { decision: 'refused' } }))}
            />
          ))}
        </Box>
      </Popover>
    </>
  );
}
