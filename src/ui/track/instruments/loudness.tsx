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
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(4, 1fr)', gap: 1 }}>
        {now.map(([name, kind, value]) => {
          const figure = reading(kind, value);
          return (
            <Box key={name}>
              <Box sx={{ fontFamily: FIGURE_FACE, fontSize: 26, lineHeight: 1.1 }}>{readingText(figure)}</Box>
              <Box sx={{ fontSize: 12, color: 'text.secondary', whiteSpace: 'nowrap' }}>
                {name}, {readingUnit(figure)}
              </Box>
            </Box>
          );
        })}
        <Box sx={{ gridColumn: '1 / -1', fontSize: 12, color: 'text.secondary', mb: -1 }}>Whole track</Box>
        {track.map(([name, kind, value]) => {
          const figure = reading(kind, value ?? null);
          return (
            <Box key={name} sx={{ fontSize: 12, whiteSpace: 'nowrap', color: 'text.secondary' }}>
              {name}{' '}
              <Box component="span" sx={{ fontFamily: FIGURE_FACE, color: 'text.primary', ...(stale && STALE) }}>
                {readingText(figure)}
              </Box>{' '}
              {readingUnit(figure)}
            </Box>
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
