'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useEffect, useState } from 'react';
import { sentenceOf } from '../../../core/sentence-of';
import { adjustmentAmong } from '../../../contracts/adjustment';
import { atLevel } from '../../../core/deliver/facts';
import { masterFacts } from '../../../core/deliver/master-facts';
import { judge } from '../../../core/deliver/verdict';
import { compareMasters, type MeasuredVersion } from '../../../engine/measure/compare-masters';
import { laneKey } from '../../../engine/measure/queue';
import { Picture } from '../../kit/picture';
import { StandingMark, verdictWords } from '../../kit/standing';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useLane, useMeasurements, useMixLength, useTrack } from '../context';
import { LaneRibbon } from '../lane/lane-ribbon';
import { drawReflection } from './draw-reflection';

/** A version with what is measured of it; the share while it is not, and the reason when it can't be. */
interface Compared {
  measured: MeasuredVersion | null;
  share: number;
  problem: string | null;
}
const NOTHING: Compared = { measured: null, share: 0, problem: null };

/** A version of the track, measured here. */
function useCompared(side: 'A' | 'B', id: string): Compared {
  const editor = useEditor();
  const open = useLane((state) => state.version);
  const saved = useTrack(({ details }) => details.versions.find((version) => version.id === id));
  const lane = id === open.id ? open.lane : saved?.lane;
  const own = useMeasurements(({ measurement, share }) => (share === null && id === open.id ? measurement : null));
  const key = lane ? laneKey(lane) : '';
  const [found, setFound] = useState<{ key: string } & Compared>({ key: '', ...NOTHING });
  useEffect(() => {
    if (!lane || own) return;
    const abort = new AbortController();
    const way = { signal: abort.signal, onShare: (share: number) => setFound({ key, ...NOTHING, share }) };
    editor.measureVersion(`side by side ${side}`, lane, way).then(
      (measurement) => !abort.signal.aborted && setFound({ key, ...NOTHING, measured: { lane, measurement } }),
      (error: Error) => !abort.signal.aborted && setFound({ key, ...NOTHING, problem: sentenceOf(error) }),
    );
    return () => abort.abort();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key says what sounds of the lane
  }, [key, own === null, id]);
  if (lane && own) return { ...NOTHING, measured: { lane, measurement: own } };
  return found.key === key ? found : NOTHING;
}

/** What both versions are against each destination. */
function Verdicts({ ids, versions }: { ids: readonly string[]; versions: readonly (MeasuredVersion | null)[] }) {
  const destinations = useTrack((state) => state.details.destinations);
  const adjustments = useTrack((state) => state.details.adjustments);
  const mix = useTrack((state) => state.details.mix);
  const tags = useTrack((state) => state.details.tags);
  return (
    <Box
      component="table"
      aria-label="Verdicts"
      sx={{ mt: 2, width: '100%', '& th, & td': { textAlign: 'left', py: 0.25 } }}
    >
      <thead>
        <tr>
          <th scope="col">Destination</th>
          <th scope="col">A</th>
          <th scope="col">B</th>
        </tr>
      </thead>
      <tbody>
        {destinations.map(({ id, settings }) => (
          <tr key={id}>
            <Box component="th" scope="row" sx={{ fontWeight: 400 }}>
              {settings.name}
            </Box>
            {versions.map((version, i) => {
              const { levelDb } = adjustmentAmong(adjustments, ids[i], id);
              const verdict =
                version &&
                mix &&
                judge(
                  settings,
                  atLevel(masterFacts(version.measurement.master, mix, { tags, edges: version.lane.edges }), levelDb),
                );
              return (
                <td key={i}>
                  <StandingMark
                    standing={verdict?.standing ?? 'unknown'}
                    words={verdict ? verdictWords(verdict) : undefined}
                  />
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </Box>
  );
}

/** Two versions of the track side by side: their programmes, ribbons and verdicts, and what tells them apart. */
export function CompareDialog({ initial, onClose }: { initial?: readonly [string, string]; onClose: () => void }) {
  const editor = useEditor();
  const palette = usePalette();
  const versions = useTrack((state) => state.details.versions);
  const open = useLane((state) => state.version.id);
  const { frames, sampleRate } = useMixLength();
  const [chosen, setChosen] = useState<readonly [string, string]>(
    () => initial ?? [open, versions.find(({ id }) => id !== open)?.id ?? open],
  );
  const a = useCompared('A', chosen[0]);
  const b = useCompared('B', chosen[1]);
  const waiting = [a, b].some(({ measured, problem }) => !measured && !problem);
  const problem = a.problem ?? b.problem;
  const edit = async (id: string) => {
    if (id !== open) await editor.switchVersion(id);
    onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="lg">
      <DialogTitle>Two versions side by side</DialogTitle>
      <DialogContent>
        {versions.length < 2 && (
          <Alert severity="info" sx={{ mb: 1.5 }}>
            There is only one version. Save this one as a new version, change it, and compare the two here.
          </Alert>
        )}
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2, pt: 1, mb: 1 }}>
          {(['A', 'B'] as const).map((name, i) => (
            <Box key={name} sx={{ display: 'flex', gap: 1 }}>
              <TextField
                select
                fullWidth
                size="small"
                label={`Version ${name}`}
                value={chosen[i]}
                onChange={({ target: { value } }) => setChosen(i === 0 ? [value, chosen[1]] : [chosen[0], value])}
              >
                {versions.map(({ id, name: title }) => (
                  <MenuItem key={id} value={id}>
                    {title}
                    {id === open ? ' (open now)' : ''}
                  </MenuItem>
                ))}
              </TextField>
              <Button color="inherit" onClick={() => void edit(chosen[i])}>
                Edit {name}
              </Button>
            </Box>
          ))}
        </Box>
        {waiting && (
          <LinearProgress
            variant="determinate"
            value={50 * ((a.measured ? 1 : a.share) + (b.measured ? 1 : b.share))}
            aria-label="Measuring both versions"
          />
        )}
        {problem && <Alert severity="error">{problem}</Alert>}
        <Box sx={{ position: 'relative', height: 190, mt: 1 }}>
          <Picture
            label="Both masters on one time axis, A above and B below: bodies are the waves, lines the short-term loudness"
            moving={false}
            draw={(surface) =>
              drawReflection(
                surface,
                [a.measured?.measurement.master ?? null, b.measured?.measurement.master ?? null],
                frames,
                sampleRate,
                palette,
              )
            }
          />
        </Box>
        {a.measured && b.measured && (
          <Box component="ul" aria-label="What tells B from A" sx={{ my: 1.5, pl: 2.5 }}>
            {compareMasters(a.measured, b.measured, sampleRate).map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </Box>
        )}
        {a.measured && <LaneRibbon title="A" lane={a.measured.lane} joints={a.measured.measurement.joints} />}
        {b.measured && <LaneRibbon title="B" lane={b.measured.lane} joints={b.measured.measurement.joints} />}
        <Verdicts ids={chosen} versions={[a.measured, b.measured]} />
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
