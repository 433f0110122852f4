'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import LinearProgress from '@mui/material/LinearProgress';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import { useEffect, useRef, useState } from 'react';
import { z } from 'zod';
import { sentenceOf } from '../../core/sentence-of';
import { EQUAL_LU, type LoudVersion } from '../../engine/measure/loudness-matching';
import { change, figure } from '../kit/format';
import { FIGURE_FACE } from '../theme/theme';
import { useEditor, useLane, useMeasurements, useTrack } from './context';

const targetSchema = z.coerce
  .number('Give a loudness in LUFS, such as −12.')
  .min(-40, 'The loudness must be at least −40 LUFS.')
  .max(-3, 'The loudness must be at most −3 LUFS.');

/** The same loudness reached by two or more versions, and what each costs. */
export function LoudComparisonDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const editor = useEditor();
  const versions = useTrack((state) => state.details.versions);
  const current = useLane((state) => state.version);
  const loudness = useMeasurements((state) => state.measurement?.master.integratedLufs);
  const [chosen, setChosen] = useState<string[] | null>(null);
  const [target, setTarget] = useState<string | null>(null);
  const [results, setResults] = useState<{ id: string; name: string; version: LoudVersion }[]>([]);
  const [share, setShare] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const stop = useRef<(() => void) | null>(null);
  useEffect(() => () => stop.current?.(), []);
  const picked = chosen ?? versions.map(({ id }) => id);
  const wanted = target ?? (loudness === undefined ? '' : figure(loudness));

  const cancel = () => {
    stop.current?.();
    stop.current = null;
    setShare(null);
  };
  const measure = async () => {
    const checked = targetSchema.safeParse(wanted.replace('−', '-').replace(',', '.'));
    if (!checked.success) return setProblem(checked.error.issues[0].message);
    setProblem(null);
    setResults([]);
    setShare(0);
    const run = editor.measurements.matchLoudness(checked.data);
    const close = () => run.close();
    stop.current = close;
    try {
      for (const [i, id] of picked.entries()) {
        const version = id === current.id ? current : versions.find((each) => each.id === id)!;
        const measured = await run.measure(version.lane);
        setResults((before) => [...before, { id, name: version.name, version: measured }]);
        setShare((i + 1) / picked.length);
      }
    } catch (error) {
      setProblem(sentenceOf(error));
    }
    if (stop.current === close) cancel();
  };
  /** Marks what is best as it is shown, where not all are alike. */
  const mark = (version: LoudVersion, value: (version: LoudVersion) => number) => {
    const shown = results.map((each) => Math.round(10 * value(each.version)));
    const [best, least] = [Math.max(...shown), Math.min(...shown)];
    return best !== least && Math.round(10 * value(version)) === best
      ? { fontWeight: 700, color: 'primary.main' }
      : undefined;
  };
  return (
    <Dialog open={open} onClose={() => (cancel(), onClose())} maxWidth="md" fullWidth>
      <DialogTitle>Compare versions at equal loudness</DialogTitle>
      <DialogContent>
        <Box sx={{ color: 'text.secondary', mb: 1.5 }}>
          Drives each version harder or less hard into its limiter or clipper until the whole track has the same
          loudness. What differs is the cost: PLR and distortion.
        </Box>
        {versions.length < 2 && (
          <Alert severity="info" sx={{ mb: 1.5 }}>
            There is only one version. Save this one as a new version, then reach the loudness another way: with a
            compressor, a clipper, a limiter or a combination.
          </Alert>
        )}
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, flexWrap: 'wrap', mb: 1 }}>
          {versions.map(({ id, name }) => (
            <FormControlLabel
              key={id}
              label={name}
              control={
                <Checkbox
                  size="small"
                  checked={picked.includes(id)}
                  onChange={(_, on) => setChosen(on ? [...picked, id] : picked.filter((other) => other !== id))}
                />
              }
            />
          ))}
          <Box sx={{ flex: 1 }} />
          <TextField
            size="small"
            label="Loudness, LUFS"
            value={wanted}
            onChange={({ target: { value } }) => setTarget(value)}
            sx={{ width: 140 }}
          />
          {share === null ? (
            <Button
              variant="contained"
              disabled={picked.length === 0 || loudness === undefined}
              onClick={() => void measure()}
            >
              Measure
            </Button>
          ) : (
            <Button color="inherit" onClick={cancel}>
              Cancel
            </Button>
          )}
        </Box>
        {share !== null && <LinearProgress variant="determinate" value={100 * share} aria-label="Measuring" />}
        {problem && (
          <Alert severity="error" sx={{ mt: 1 }}>
            {problem}
          </Alert>
        )}
        {results.length > 0 && (
          <Table
            size="small"
            aria-label="Versions at equal loudness"
            sx={{
              mt: 1,
              '& td': { fontFamily: FIGURE_FACE, textAlign: 'right', whiteSpace: 'nowrap' },
              '& th': { textAlign: 'right' },
              '& th:first-of-type': { textAlign: 'left' },
            }}
          >
            <TableHead>
              <TableRow>
                <TableCell>Version</TableCell>
                <TableCell>LUFS</TableCell>
                <TableCell>PLR, LU</TableCell>
                <TableCell>LRA, LU</TableCell>
                <TableCell>distortion, dB</TableCell>
                <TableCell>dBTP</TableCell>
                <TableCell>driven by</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {results.map(({ id, name, version }) => (
                <TableRow key={id}>
                  <TableCell component="th" scope="row">
                    {name}
                  </TableCell>
                  <TableCell sx={version.reached ? undefined : { color: 'error.main' }}>
                    {figure(version.integratedLufs, 2)}
                    {version.reached ? '' : ', not reached'}
                  </TableCell>
                  <TableCell sx={mark(version, ({ plrLu }) => plrLu)}>{figure(version.plrLu)}</TableCell>
                  <TableCell sx={mark(version, ({ rangeLu }) => rangeLu)}>{figure(version.rangeLu)}</TableCell>
                  <TableCell sx={mark(version, ({ distortionDb }) => -distortionDb)}>
                    {version.distortionDb === -Infinity ? 'none' : figure(version.distortionDb)}
                  </TableCell>
                  <TableCell>{figure(version.truePeakDbtp)}</TableCell>
                  <TableCell>
                    {change(version.driveDb)} dB, {version.drivenStage.toLowerCase()}
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        )}
        <Box sx={{ mt: 1, fontSize: 12, color: 'text.secondary' }}>
          Equal within {EQUAL_LU} LU. Distortion is what compressor, saturation, clipper and limiter add to the loudest
          passage, against the music. Bold: highest PLR and LRA, least distortion.
        </Box>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={() => (cancel(), onClose())}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
