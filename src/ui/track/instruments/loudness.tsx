'use client';

import Box from '@mui/material/Box';
import { useMemo } from 'react';
import { reading, readingText, readingUnit, type ReadingKind } from '../../../core/measure/reading';
import type { JointReading, ProgrammeReading } from '../../../engine/measure/measurement';
import { Picture } from '../../kit/picture';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useHeard, useLane, useLiveReadings, useMeasurements, useTransport } from '../context';
import { drawLoudnessHistory } from '../draw-loudness-history';
import { HISTORY } from '../live-board';
import { STALE, useStale } from '../stale';
import { instrumentPlace, type ChosenPlace } from './choice';
import { drawLoudnessHistogram, loudnessHistogram } from './loudness-histogram';
import { peakToShortTerm } from './peak-to-short-term';

/** Below this, in LUFS, nothing plays. */
const SILENT_LUFS = -80;
const NOTHING = { momentaryLufs: -Infinity, shortTermLufs: -Infinity };

/** Four figures in a row, each over its name. */
const FIGURES = {
  ...{
    display: 'grid',
    gridTemplateColumns: 'repeat(auto-fit, minmax(62px, 1fr))',
    columnGap: 1,
    m: 0,
    whiteSpace: 'nowrap',
  },
  '& div': { display: 'flex', flexDirection: 'column-reverse' },
  '& dt': { fontSize: 12, color: 'text.secondary' },
  '& dd': { m: 0 },
} as const;

/** What is known of the whole track at a place: of a joint less than of its ends. */
function useWholeTrack(chosen: ChosenPlace): (JointReading & Partial<ProgrammeReading>) | null {
  const lane = useLane((state) => state.version.lane);
  const measurement = useMeasurements((state) => state.measurement);
  const heard = useHeard();
  if (!measurement) return null;
  const place = instrumentPlace(chosen, lane);
  if (place === 0 || (place === 'heard' && heard.what.kind === 'mix' && heard.what.mixId === null))
    return measurement.mix;
  if (place === lane.stages.length || (place === 'heard' && heard.what.kind === 'edited')) return measurement.master;
  return place === 'heard' ? null : (measurement.joints.at(place) ?? null);
}

/** Loudness at a place: now in large figures, over the whole track in small ones, the last seconds, and how often what. */
export function Loudness({ place, chosen, color }: { place: 0 | 1; chosen: ChosenPlace; color: string }) {
  const { board } = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const live = useLiveReadings()?.instruments.at(place);
  const whole = useWholeTrack(chosen);
  const stale = useStale();
  const histogram = useMemo(() => whole?.shortTerm && loudnessHistogram(whole.shortTerm), [whole]);
  const known = (value: number | undefined) => (value !== undefined && value > SILENT_LUFS ? value : null);
  const past = () => board.history.map(({ instruments }) => instruments.at(place) ?? NOTHING);
  const now: [string, ReadingKind, number | null][] = [
    ['momentary', 'loudness', known(live?.momentaryLufs)],
    ['short-term', 'loudness', known(live?.shortTermLufs)],
    ['integrated', 'loudness', known(live?.integratedLufs)],
    ['PSR', 'loudnessDifference', live ? peakToShortTerm(board.history, place) : null],
  ];
  const track: [string, ReadingKind, number | undefined][] = [
    ['I', 'loudness', whole?.integratedLufs],
    ['LRA', 'loudnessDifference', whole?.rangeLu],
    ['TP', 'truePeak', whole?.truePeakDbtp],
    ['PLR', 'loudnessDifference', whole ? whole.truePeakDbtp - whole.integratedLufs : undefined],
  ];
  return (
    <Box>
      <Box component="dl" aria-label="Now" sx={FIGURES}>
        {now.map(([name, kind, value]) => {
          const figure = reading(kind, value);
          return (
            <div key={name}>
              <dt>{name}</dt>
              <Box component="dd" sx={{ fontFamily: FIGURE_FACE, fontSize: 26, lineHeight: 1.1 }}>
                {readingText(figure)}
              </Box>
            </div>
          );
        })}
      </Box>
      <Box sx={{ fontSize: 12, color: 'text.secondary', mt: 0.5 }}>Whole track</Box>
      <Box
        component="dl"
        aria-label="Whole track"
        sx={{
          ...FIGURES,
          gridTemplateColumns: 'repeat(auto-fit, minmax(112px, 1fr))',
          '& div': { display: 'flex', gap: 0.75 },
        }}
      >
        {track.map(([name, kind, value]) => {
          const figure = reading(kind, value ?? null);
          return (
            <div key={name}>
              <dt>{name}</dt>
              <Box component="dd" sx={{ fontFamily: FIGURE_FACE, fontSize: 12, ...(stale && STALE) }}>
                {readingText(figure)} {readingUnit(figure)}
              </Box>
            </div>
          );
        })}
      </Box>
      <Box sx={{ position: 'relative', height: 84, mt: 1 }}>
        <Picture
          label="Loudness of the last 12 s: momentary thin, short-term bold"
          moving={playing}
          draw={(surface) => drawLoudnessHistory(surface, past(), HISTORY, color, palette)}
        />
      </Box>
      <Box sx={{ position: 'relative', height: 70, mt: 1 }}>
        {histogram ? (
          <Picture
            label="How often the whole track has each short-term loudness; the mark is where it is now"
            moving={playing}
            draw={(surface) =>
              drawLoudnessHistogram(
                surface,
                histogram,
                board.latest?.instruments.at(place)?.shortTermLufs ?? -Infinity,
                color,
                palette,
              )
            }
          />
        ) : (
          <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
            {whole ? 'The histogram is measured at the input and at the output.' : 'Not measured yet.'}
          </Box>
        )}
      </Box>
    </Box>
  );
}
