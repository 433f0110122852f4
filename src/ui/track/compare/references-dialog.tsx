'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { sentenceOf } from '../../../core/sentence-of';
import type { Reference } from '../../../contracts/reference';
import { movesTowards } from '../../../core/draft/closer';
import { balanceDifference, THIRD_OCTAVES_HZ, type BalanceBand } from '../../../core/measure/balance';
import { reading, readingText } from '../../../core/measure/reading';
import { figure } from '../../kit/format';
import { Picture } from '../../kit/picture';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useTrack } from '../context';
import { useArrivingReferences } from '../candidates/use-arriving-references';
import { CORRELATION_BANDS, CORRELATION_EDGES_HZ } from '../instruments/correlations';
import { drawBalanceDifference } from './draw-balance-difference';

/** Figures stand under each other. */
const FIGURES = {
  '& td': { fontFamily: FIGURE_FACE },
  '& td, & thead th': { textAlign: 'right' },
  '& tbody th': { textAlign: 'left' },
} as const;

/** Side below this against mid, in dB, is nothing but rounding. */
const MONO_DB = -60;

/** Bands in which width and correlation are told: those of the instruments. */
const BROAD = CORRELATION_BANDS.map(
  (title, i) => [title, i === 0 ? 0 : CORRELATION_EDGES_HZ[i - 1], CORRELATION_EDGES_HZ.at(i) ?? Infinity] as const,
);

/** Balance of a reference as it was measured: null stands for nothing there. */
function bandsOf({ report }: Reference): BalanceBand[] {
  return (report?.balance ?? []).map(({ levelDbfs, sideDb, correlation }) => ({
    levelDbfs: levelDbfs ?? -Infinity,
    sideDb: sideDb ?? -Infinity,
    correlation,
  }));
}

/** Side against mid in dB, and correlation, of the third-octaves within a broad band, weighted by their power. */
function imageWithin(
  bands: readonly BalanceBand[],
  fromHz: number,
  toHz: number,
): { sideDb: number; correlation: number } {
  let [mid, side, power, common] = [0, 0, 0, 0];
  bands.forEach(({ levelDbfs, sideDb, correlation }, i) => {
    if (THIRD_OCTAVES_HZ[i] < fromHz || THIRD_OCTAVES_HZ[i] >= toHz) return;
    const all = 10 ** (levelDbfs / 10);
    const ratio = 10 ** (sideDb / 10);
    mid += all / (1 + ratio);
    side += (all * ratio) / (1 + ratio);
    power += all;
    common += all * correlation;
  });
  return { sideDb: 10 * Math.log10(side / mid), correlation: power > 0 ? common / power : 1 };
}

/** The balance of the master as it stands; null while it is measured. */
function useMasterBalance(): { bands: BalanceBand[] | null; problem: string | null } {
  const editor = useEditor();
  const rendered = useMeasurements((state) => state.rendered);
  const [found, setFound] = useState<{ of: unknown; bands: BalanceBand[] | null; problem: string | null }>({
    ...{ of: null, bands: null, problem: null },
  });
  useEffect(() => {
    if (!rendered) return;
    let left = false;
    editor.balanceOf(rendered).then(
      (bands) => !left && setFound({ of: rendered, bands, problem: null }),
      (error: Error) => !left && setFound({ of: rendered, bands: null, problem: sentenceOf(error) }),
    );
    return () => {
      left = true;
    };
  }, [editor, rendered]);
  return found.of === rendered ? found : { bands: null, problem: null };
}

/** The master beside the references of the shelf: figures, balance, width, and a proposal to come closer to one of them. */
export function ReferencesDialog({ onClose }: { onClose: () => void }) {
  const editor = useEditor();
  const palette = usePalette();
  const references = useTrack((state) => state.details.references).filter(({ report }) => report !== null);
  const arriving = useArrivingReferences();
  const master = useMeasurements((state) => state.measurement?.master);
  const { bands, problem } = useMasterBalance();
  const [chosenId, setChosen] = useState<string | null>(null);
  const chosen = references.find(({ id }) => id === chosenId) ?? references.at(0);
  const theirs = chosen && { bands: bandsOf(chosen), integratedLufs: chosen.report!.integratedLufs ?? -Infinity };
  const difference =
    bands && master && theirs ? balanceDifference({ bands, integratedLufs: master.integratedLufs }, theirs) : null;
  const moves = difference ? movesTowards(difference) : [];
  const level = (kind: 'loudness' | 'truePeak' | 'loudnessDifference', value: number | null | undefined) =>
    readingText(reading(kind, value ?? null));
  const rows = [
    ...(master ? [{ id: 'master', title: 'Master', ...master, report: null }] : []),
    ...references.map(({ id, title, report }) => ({ id, title, ...report!, report })),
  ];
  const insert = () => {
    if (
      chosen &&
      moves.length > 0 &&
      editor.addCloser(
        chosen.title,
        moves.map(({ band }) => band),
      )
    )
      onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md">
      <DialogTitle>Master and references</DialogTitle>
      <DialogContent>
        {arriving.length > 0 && (
          <Alert severity="info">Still being measured: {arriving.map(({ title }) => title).join(', ')}.</Alert>
        )}
        {references.length === 0 && arriving.length === 0 && (
          <Alert
            severity="info"
            action={
              <Button component={Link} href="/references" color="inherit">
                Open the shelf
              </Button>
            }
          >
            There is no reference yet. Put records that you know well on your shelf of references.
          </Alert>
        )}
        {problem && <Alert severity="error">{problem}</Alert>}
        <Table size="small" aria-label="Master and references" sx={FIGURES}>
          <TableHead>
            <TableRow>
              <td />
              <TableCell>LUFS</TableCell>
              <TableCell>dBTP</TableCell>
              <TableCell>PLR, LU</TableCell>
              <TableCell>LRA, LU</TableCell>
              <td />
            </TableRow>
          </TableHead>
          <TableBody>
            {rows.map(({ id, title, integratedLufs, truePeakDbtp, plrLu, rangeLu, report }) => (
              <TableRow key={id} selected={id === chosen?.id}>
                <TableCell component="th" scope="row">
                  {title}
                </TableCell>
                <TableCell>{level('loudness', integratedLufs)}</TableCell>
                <TableCell>{level('truePeak', truePeakDbtp)}</TableCell>
                <TableCell>{level('loudnessDifference', plrLu)}</TableCell>
                <TableCell>{level('loudnessDifference', rangeLu)}</TableCell>
                <TableCell>
                  {report && (
                    <Button size="small" color="inherit" aria-pressed={id === chosen?.id} onClick={() => setChosen(id)}>
                      Compare
                    </Button>
                  )}
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
        {chosen && !bands && !problem && <LinearProgress aria-label="Measuring the balance" sx={{ mt: 2 }} />}
        {chosen && difference && bands && theirs && (
          <>
            <Box sx={{ mt: 2 }}>
              What the master has more (up) and less (down) of than “{chosen.title}”: third-octaves at equal loudness,
              dB
            </Box>
            <Box sx={{ position: 'relative', height: 190 }}>
              <Picture
                label={`Balance of the master against ${chosen.title}, by third-octaves, at equal loudness`}
                draw={(surface) => drawBalanceDifference(surface, difference, palette)}
              />
            </Box>
            <Box component="section" aria-label="Closer to the reference" sx={{ mt: 2 }}>
              <b>Closer to the reference</b>
              {moves.length === 0 ? (
                <Box>In broad strokes the two are balanced alike: nothing to propose.</Box>
              ) : (
                <>
                  <Box component="ul" sx={{ my: 0.5, pl: 2.5 }}>
                    {moves.map(({ band, reason }) => (
                      <li key={`${band.shape} ${band.frequencyHz}`}>
                        {band.gainDb > 0 ? '+' : ''}
                        {figure(band.gainDb)} dB at {band.frequencyHz} Hz. {reason}
                      </li>
                    ))}
                  </Box>
                  <Button variant="outlined" onClick={insert}>
                    Add this equalizer
                  </Button>{' '}
                  <span>One undo takes it away again.</span>
                </>
              )}
            </Box>
            <Table size="small" aria-label="Width and correlation" sx={{ ...FIGURES, mt: 2 }}>
              <TableHead>
                <TableRow>
                  <td />
                  <TableCell>side/mid, master</TableCell>
                  <TableCell>reference</TableCell>
                  <TableCell>correlation, master</TableCell>
                  <TableCell>reference</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {BROAD.map(([title, from, to]) => {
                  const [ours, other] = [imageWithin(bands, from, to), imageWithin(theirs.bands, from, to)];
                  const side = ({ sideDb }: typeof ours) => (sideDb > MONO_DB ? `${figure(sideDb)} dB` : 'mono');
                  return (
                    <TableRow key={title}>
                      <TableCell component="th" scope="row">
                        {title}
                      </TableCell>
                      <TableCell>{side(ours)}</TableCell>
                      <TableCell>{side(other)}</TableCell>
                      <TableCell>{figure(ours.correlation, 2)}</TableCell>
                      <TableCell>{figure(other.correlation, 2)}</TableCell>
                    </TableRow>
                  );
                })}
              </TableBody>
            </Table>
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
