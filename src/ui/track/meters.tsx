'use client';

import Box from '@mui/material/Box';
import { reading, readingText, readingUnit, type Reading } from '../../core/measure/reading';
import type { ProgrammeReading } from '../../engine/measure/measurement';
import { LIVE, MIX } from '../../engine/sources/source-mixer';
import { Picture } from '../kit/picture';
import { FIGURE_FACE } from '../theme/theme';
import { usePalette } from '../theme/use-palette';
import { useEditor, useHeard, useLiveReadings, useMeasurements, useTransport } from './context';
import { drawLoudnessHistory } from './draw-loudness-history';
import { HISTORY } from './live-board';
import { STALE, useStale } from './stale';

/** Large figures of what is heard: now, and over the whole track; below them the loudness of the last seconds. */
export function Meters() {
  const { board } = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const entry = useHeard();
  const measurement = useMeasurements((state) => state.measurement);
  const stale = useStale();
  const live = useLiveReadings()?.heard;
  // Of what is neither the mix nor the master less is known.
  const own: Record<string, Partial<ProgrammeReading> | undefined> = {
    [MIX]: measurement?.mix,
    [LIVE]: measurement?.master,
  };
  const whole: Partial<ProgrammeReading> | undefined = Object.hasOwn(own, entry.id)
    ? own[entry.id]
    : (entry.level ?? undefined);
  const known = (value: number | undefined) => (value !== undefined && value > -80 ? value : null);
  const held = (peaks: { value: number }[]) => known(Math.max(...peaks.map(({ value }) => value)));
  const rows: [string, Reading, Reading][] = [
    ['Momentary', reading('loudness', known(live?.momentaryLufs)), reading('loudness', whole?.maxMomentaryLufs)],
    ['Short-term', reading('loudness', known(live?.shortTermLufs)), reading('loudness', whole?.maxShortTermLufs)],
    ['Integrated', reading('loudness', known(live?.integratedLufs)), reading('loudness', whole?.integratedLufs)],
    ['True peak', reading('truePeak', held(board.held.true)), reading('truePeak', whole?.truePeakDbtp)],
    ['Sample peak', reading('samplePeak', held(board.held.sample)), reading('samplePeak', whole?.samplePeakDbfs)],
    ['Loudness range', reading('loudnessDifference', null), reading('loudnessDifference', whole?.rangeLu)],
    ['PLR', reading('loudnessDifference', null), reading('loudnessDifference', whole?.plrLu)],
  ];
  return (
    <Box component="section" aria-label="Meters">
      <Box component="table" sx={TABLE}>
        <caption>{entry.full}, in stereo</caption>
        <thead>
          <tr>
            <td />
            <th scope="col">now</th>
            <th scope="col">whole track</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, now, track]) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              <Box component="td" sx={{ fontSize: 18 }}>
                {readingText(now)}
              </Box>
              <Box component="td" sx={{ fontSize: 15, ...(stale && STALE) }}>
                {name in HIGHEST && (
                  <Box component="span" sx={{ fontSize: 12, color: 'text.secondary' }}>
                    max{' '}
                  </Box>
                )}
                {readingText(track)}
              </Box>
              <td className="unit">{readingUnit(track)}</td>
            </tr>
          ))}
        </tbody>
      </Box>
      <Box sx={{ position: 'relative', height: 128, mt: 1 }}>
        <Picture
          label="Loudness of the last 12 s: momentary thin, short-term bold"
          moving={playing}
          draw={(surface) =>
            drawLoudnessHistory(
              surface,
              board.history.map((each) => each.heard),
              HISTORY,
              entry.what.kind === 'mix' ? palette.copper : palette.patina,
              palette,
            )
          }
        />
      </Box>
    </Box>
  );
}

/** Of what moves, the whole track has the highest. */
const HIGHEST = { Momentary: true, 'Short-term': true };

const TABLE = {
  ...{ width: '100%', borderSpacing: 0, fontSize: 12.5, fontVariantNumeric: 'tabular-nums' },
  '& caption': { textAlign: 'left', fontWeight: 650, pb: 0.5 },
  '& th': { fontWeight: 400, color: 'text.secondary', textAlign: 'right', p: 0, fontSize: 12 },
  '& th:first-of-type': { textAlign: 'left' },
  '& thead td': { border: 0 },
  '& tbody td': { fontFamily: FIGURE_FACE, textAlign: 'right', p: 0, borderBottom: 1, borderColor: 'divider' },
  '& tbody th': { borderBottom: 1, borderColor: 'divider' },
  '& .unit': { fontSize: 12, color: 'text.secondary', textAlign: 'left', pl: 0.75 },
} as const;
