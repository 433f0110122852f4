'use client';

import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useEffect, useMemo, useState } from 'react';
import { deliveredRate, type Destination } from '../../../core/deliver/destination';
import { DITHERS, type Dither } from '../../../core/deliver/dither';
import type { WordLength } from '../../../core/deliver/format';
import { errorSpectrum } from '../../../core/deliver/error-spectrum';
import { quietPassages } from '../../../core/measure/quiet-passages';
import { change, clock, figure } from '../../kit/format';
import { Picture } from '../../kit/picture';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useMixLength, useTransport } from '../context';
import { ditheredPassage, raisedDb } from './dithered-passage';
import { DITHER_TITLES } from './dither-words';
import { drawErrorSpectra } from './draw-error-spectra';

const COLUMNS = 120;
const PLACES = { quietest: 'Quietest passage', end: 'The end' } as const;

/** Plays a quiet passage of the master with each dither, raised so that one hears the bottom of it. */
function Listening({ depth }: { depth: WordLength }) {
  const { passages, transport } = useEditor();
  const master = useMeasurements((state) => state.rendered);
  const { sampleRate } = useMixLength();
  const playing = useTransport((state) => state.playing);
  const found = useMemo(() => master && quietPassages({ ...master, sampleRate }), [master, sampleRate]);
  const [place, setPlace] = useState<keyof typeof PLACES>('quietest');
  const [heard, setHeard] = useState<Dither | null>(null);
  useEffect(() => () => passages.end(), [passages]);
  if (!master || !found)
    return <Box>{master ? 'The track is too short to listen for this.' : 'The master is still being rendered.'}</Box>;
  const passage = found[place];
  const gainDb = raisedDb(master, passage);
  const hear = (dither: Dither | null, where: keyof typeof PLACES) => {
    setHeard(dither);
    if (dither === null) return passages.end();
    const span = found[where];
    const options = { dither, depth, sampleRate, gainDb: raisedDb(master, span) };
    const id = `dither-${where}-${dither}`;
    passages.put(id, ditheredPassage(master, span, options), span.start);
    passages.loop(span);
    passages.hear(id);
    if (!playing) transport.togglePlay();
  };
  const seconds = (frame: number) => clock(frame / sampleRate, 1);
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={place}
        aria-label="What is listened to"
        onChange={(_, next: keyof typeof PLACES | null) => {
          if (!next) return;
          setPlace(next);
          if (heard) hear(heard, next);
        }}
      >
        {Object.entries(PLACES).map(([key, title]) => (
          <ToggleButton key={key} value={key} sx={TOGGLE}>
            {title}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={heard}
        aria-label="Dither that is heard"
        onChange={(_, next: Dither | null) => hear(next, place)}
      >
        {DITHERS.map((dither) => (
          <ToggleButton key={dither} value={dither} sx={TOGGLE}>
            {DITHER_TITLES[dither]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Box sx={{ fontSize: 13, color: 'text.secondary' }}>
        The master at {seconds(passage.start)}–{seconds(passage.end)}, at {depth} bits and raised by {gainDb} dB, before
        any change of the sample rate. Mind the volume when you go back.
      </Box>
    </Box>
  );
}
const TOGGLE = { textTransform: 'none', py: 0.25, color: 'text.primary' } as const;

/** What each dither does to the error, by measurement and by ear. */
export function DitherComparison({ chosen, destination }: { chosen: Dither; destination: Destination }) {
  const palette = usePalette();
  const { sampleRate: mixRate } = useMixLength();
  const sampleRate = deliveredRate(destination, mixRate);
  const depth = destination.wordLength.bits;
  const spectra = useMemo(
    () => DITHERS.map((dither) => ({ dither, ...errorSpectrum(dither, depth, sampleRate, COLUMNS) })),
    [depth, sampleRate],
  );
  return (
    <Box sx={{ display: 'grid', gap: 1, mt: 1 }}>
      <Box sx={{ fontSize: 13 }}>
        The error in the last of a fade, dB above plain rounding
        {depth === 24 ? '. At 24 bits all of it is far below what any room lets one hear' : ''}.
      </Box>
      <Box sx={{ position: 'relative', height: 150 }}>
        <Picture
          label={`Spectra of the error of each dither; ${DITHER_TITLES[chosen]} is bold`}
          draw={(surface) =>
            drawErrorSpectra(
              surface,
              spectra.map(({ columns, dither }) => ({ columns, chosen: dither === chosen })),
              sampleRate,
              palette,
            )
          }
        />
      </Box>
      <Table size="small" aria-label="Noise of each dither" sx={FIGURES}>
        <TableHead>
          <TableRow>
            <td />
            <TableCell>total, dBFS</TableCell>
            <TableCell>as it is heard, against TPDF</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {spectra.map(({ dither, totalDbfs, weightedDb }) => (
            <TableRow key={dither} selected={dither === chosen}>
              <TableCell component="th" scope="row">
                {DITHER_TITLES[dither]}
              </TableCell>
              <TableCell>{figure(totalDbfs)}</TableCell>
              <TableCell>{dither === 'none' ? 'distortion, not noise' : `${change(weightedDb)} dB`}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Listening depth={depth} />
    </Box>
  );
}

/** Figures stand under each other. */
const FIGURES = {
  '& td': { fontFamily: FIGURE_FACE },
  '& td, & thead th': { textAlign: 'right' },
  '& tbody th': { textAlign: 'left' },
} as const;
