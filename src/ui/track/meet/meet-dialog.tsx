'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import Radio from '@mui/material/Radio';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useEffect, useRef, useState } from 'react';
import { sentenceOf } from '../../../core/sentence-of';
import { MAX_LABEL } from '../../../contracts/version';
import { describeDestination } from '../../../core/deliver/describe';
import type { Destination } from '../../../core/deliver/destination';
import { ceilingForEncodes, type EncodeGrowth } from '../../../core/deliver/encode-margin';
import { encodeName } from '../../../core/deliver/encode';
import type { Means, Meeting } from '../../../core/deliver/meet';
import { figure } from '../../../core/measure/figure';
import type { SolverRunner } from '../../../engine/measure/solver-runner';
import type { Effortless, Proposal } from '../../../engine/measure/meetings';
import { FIGURE_FACE } from '../../theme/theme';
import { StandingMark } from '../../kit/standing';
import { useEditor, useEncodes, useLane, useMeasurements, useTrack } from '../context';
import { growthOf } from './growth';
import { meetOthers, outcomeOf, type TrackOutcome } from './meet-release';
import { OtherDestinations } from './other-destinations';
import { MEANS_HELP, movement, obstacleWords } from './words';

/** What is known of encodes of the open master. */
function useGrowth(): EncodeGrowth[] {
  const checks = useEncodes((state) => state.checks);
  const passage = useEncodes((state) => state.passage);
  return growthOf(checks, passage);
}

/** What has to move so that the lane meets a destination: what each way costs first, then one step. */
export function MeetDialog({ destination, onClose }: { destination: Destination; onClose: () => void }) {
  const editor = useEditor();
  const [lane] = useState(useLane((state) => state.version.lane));
  const [master] = useState(useMeasurements((state) => state.measurement?.master));
  const [runner, setRunner] = useState<SolverRunner | null>(null);
  const [proposals, setProposals] = useState<Proposal[] | null>(null);
  const [effortless, setEffortless] = useState<Effortless | null | undefined>(undefined);
  const [means, setMeans] = useState<Means | null>(null);
  const [nearest, setNearest] = useState<Meeting | null>(null);
  const [busy, setBusy] = useState(true);
  const [problem, setProblem] = useState<string | null>(null);
  const [outcomes, setOutcomes] = useState<TrackOutcome[] | null>(null);
  const leaving = useRef<AbortController | null>(null);
  const details = useTrack((state) => state.details);
  const label = `Meet ${destination.name}`.slice(0, MAX_LABEL);
  const growth = useGrowth();
  const [maxDbtp] = useState(() => ceilingForEncodes(destination, growth));
  const failed = (error: unknown) => setProblem(sentenceOf(error));

  useEffect(() => {
    let closed = false;
    let own: SolverRunner | null = null;
    const begin = async () => {
      own = await editor.solver(lane);
      if (closed || !master) return own.close();
      setRunner(own);
      const found = await own.propose(lane, destination, master, maxDbtp);
      if (closed) return;
      setProposals(found);
      setMeans(found[0].hold.means);
      setBusy(false);
      // What has no ceiling after it gives a dB for each dB: there is nothing to tell.
      const driven = found.find(({ hold }) => hold.means !== 'trim');
      const most = driven && (await own.effortless(lane, driven.hold, master));
      if (!closed) setEffortless(most);
    };
    begin().catch((error: unknown) => {
      if (closed) return;
      failed(error);
      setBusy(false);
    });
    return () => {
      closed = true;
      leaving.current?.abort();
      own?.close();
    };
  }, [editor, lane, master, destination, maxDbtp]);

  const [first, second] = proposals ?? [];
  const chosen = proposals?.find(({ hold }) => hold.means === means);
  const cleanest = !second?.met || first.cost.distortionDb < second.cost.distortionDb - 0.1;
  const still = first?.met && proposals?.every(({ hold, value }) => !hold.stageId || value === hold.value);
  const take = (meeting: Meeting) => {
    editor.lane.editLane(label, () => meeting.lane);
    onClose();
  };
  const solve = async () => {
    const hold = chosen?.hold;
    if (!runner || !hold) return;
    setBusy(true);
    setNearest(null);
    try {
      const meeting = await runner.meet(lane, destination, hold, maxDbtp);
      if (meeting.met) take(meeting);
      else setNearest(meeting);
    } catch (error) {
      failed(error);
    }
    setBusy(false);
  };
  const solveAll = async () => {
    const hold = chosen?.hold;
    if (!runner || !hold) return;
    const told: TrackOutcome[] = [];
    const tell = (outcome: TrackOutcome) => setOutcomes([...(told.push(outcome), told)]);
    const { signal } = (leaving.current = new AbortController());
    setBusy(true);
    setOutcomes([]);
    try {
      const meeting = await runner.meet(lane, destination, hold, maxDbtp);
      if (meeting.met) editor.lane.editLane(label, () => meeting.lane);
      tell(outcomeOf(details.track.title, hold, meeting));
      await meetOthers(details, destination, hold.means, editor.lane, tell, signal);
    } catch (error) {
      failed(error);
    }
    setBusy(false);
  };
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>Meet {destination.name}</DialogTitle>
      <DialogContent>
        <Box sx={{ color: 'text.secondary', mb: 1 }}>{describeDestination(destination)}</Box>
        <LinearProgress aria-label="Solving" sx={{ height: 2, visibility: busy ? 'visible' : 'hidden' }} />
        {problem && <Alert severity="error">{problem}</Alert>}
        {!proposals && !problem && <Box role="status">Trying each way on the loudest passage…</Box>}
        {proposals && (
          <Table size="small" aria-label="Ways to meet it" sx={{ '& td': { fontFamily: FIGURE_FACE } }}>
            <TableHead>
              <TableRow>
                <TableCell>What moves</TableCell>
                <TableCell>about</TableCell>
                <TableCell>PLR, LU</TableCell>
                <TableCell>taken, dB</TableCell>
                <TableCell>distortion, dB</TableCell>
                <TableCell>of it below 300 Hz</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {proposals.map(({ hold, value, met, cost }, i) => (
                <TableRow key={hold.means} hover onClick={() => setMeans(hold.means)} sx={{ cursor: 'pointer' }}>
                  <TableCell component="th" scope="row" title={MEANS_HELP[hold.means]}>
                    <Radio
                      size="small"
                      checked={means === hold.means}
                      slotProps={{ input: { 'aria-label': hold.title } }}
                      sx={{ p: 0.25, mr: 0.5 }}
                    />
                    {hold.title}
                    {!met && ', does not get there'}
                    {met && i === 0 && cleanest && ', the cleanest'}
                  </TableCell>
                  <TableCell>{movement(hold, value)}</TableCell>
                  <TableCell>{figure(cost.plrLu)}</TableCell>
                  <TableCell>{figure(-cost.reductionDb)}</TableCell>
                  <TableCell>{figure(cost.distortionDb)}</TableCell>
                  <TableCell>{figure(cost.lowDb)}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        )}
        {proposals && (
          <Box sx={{ mt: 1, fontSize: 12.5, color: 'text.secondary' }}>
            {still && 'It meets this destination as it stands. '}
            {effortless
              ? `Loudness costs little up to about ${figure(effortless.integratedLufs)} LUFS (${effortless.hold.title.toLowerCase()} ${figure(effortless.value)} dB); beyond that distortion comes up, or a dB no longer gives most of a dB. `
              : effortless === null && 'Distortion is heard already well below this loudness. '}
            {maxDbtp < destination.truePeak.maxDbtp &&
              `The master is kept at ${figure(maxDbtp, 2)} dBTP, since encodes of it went higher than it did. `}
            {destination.encodes.length > 0 &&
              `${destination.encodes.map(encodeName).join(' and ')} ${destination.encodes.length > 1 ? 'are' : 'is'} checked again after the step. `}
            Figures are of the loudest passage; the solution is measured over the whole track.
          </Box>
        )}
        {chosen && !outcomes && <OtherDestinations met={destination} reading={chosen.reading} />}
        {outcomes && (
          <Box component="ul" aria-label="What became of each track" sx={{ m: 0, mt: 1.5, pl: 0, listStyle: 'none' }}>
            {outcomes.map(({ title, met, sentence }) => (
              <Box component="li" key={title} sx={{ display: 'flex', gap: 1.5, py: 0.25 }}>
                <StandingMark standing={met ? 'meets' : 'misses'} words={met ? 'meets' : 'not met'} />
                <span>
                  <b>{title}</b> {sentence}
                </span>
              </Box>
            ))}
          </Box>
        )}
        {nearest && (
          <Alert
            severity="warning"
            sx={{ mt: 1 }}
            action={<Button onClick={() => take(nearest)}>Take the nearest</Button>}
          >
            {obstacleWords(nearest)}
          </Alert>
        )}
      </DialogContent>
      <DialogActions>
        <Box sx={{ flex: 1, pl: 2, fontSize: 12.5, color: 'text.secondary' }}>
          One step in the history of each track, which undo takes back.
        </Box>
        <Button color="inherit" onClick={onClose}>
          {outcomes ? 'Close' : 'Cancel'}
        </Button>
        <Button
          color="inherit"
          variant="outlined"
          disabled={busy || !means || outcomes !== null}
          onClick={() => void solveAll()}
        >
          All tracks of the release
        </Button>
        <Button variant="contained" disabled={busy || !means || outcomes !== null} onClick={() => void solve()}>
          Meet it
        </Button>
      </DialogActions>
    </Dialog>
  );
}
