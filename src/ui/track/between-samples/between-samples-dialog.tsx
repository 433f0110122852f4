'use client';

import NextIcon from '@mui/icons-material/ChevronRight';
import PreviousIcon from '@mui/icons-material/ChevronLeft';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import IconButton from '@mui/material/IconButton';
import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useEffect, useState } from 'react';
import { sentenceOf } from '../../../core/sentence-of';
import type { Destination } from '../../../core/deliver/destination';
import { waveBetween } from '../../../core/measure/between-samples';
import type { PeakPlace } from '../../../engine/measure/peak-places';
import type { StereoBuffer } from '../../../engine/sources/places';
import { clock, figure } from '../../kit/format';
import { Picture } from '../../kit/picture';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { candidateInk } from '../candidates/candidate-ink';
import { useAudition, useCandidates, useEditor, useMeasurements, useMixLength, useTrack } from '../context';
import { drawWave, topOf, type DrawnWave } from './draw-wave';

/** Frames that a picture shows. */
const ZOOMS = [16, 32, 64, 128, 256, 512, 1024] as const;
/** Points of the wave that are enough for a picture. */
const MOST_POINTS = 8192;
const CHANNELS = ['Left', 'Right'] as const;

interface Found {
  of: StereoBuffer | null;
  places: readonly PeakPlace[] | null;
  problem: string | null;
}

/** Every over of what a candidate plays from, or its highest peaks where there is none. */
function usePlaces(buffer: StereoBuffer | null): Found {
  const editor = useEditor();
  const [found, setFound] = useState<Found>({ of: null, places: null, problem: null });
  useEffect(() => {
    if (!buffer) return;
    let left = false;
    editor.peaksOf(buffer).then(
      (peaks) => {
        const overs = peaks.filter(({ truePeakDbtp }) => truePeakDbtp > 0);
        if (!left) setFound({ of: buffer, places: overs.length > 0 ? overs : peaks, problem: null });
      },
      (error: Error) => !left && setFound({ of: buffer, places: null, problem: sentenceOf(error) }),
    );
    return () => {
      left = true;
    };
  }, [editor, buffer]);
  return found.of === buffer ? found : { of: buffer, places: null, problem: null };
}

/** The index of the highest of some places. */
function highestOf(places: readonly PeakPlace[]): number {
  return places.reduce((best, place, i) => (place.truePeakDbtp > places[best].truePeakDbtp ? i : best), 0);
}

/** "Over 2 of 5" or "Peak 2 of 12", and where it is. */
function placeWords(places: readonly PeakPlace[], index: number, sampleRate: number): string {
  const { truePeakDbtp, channel, frame } = places[index];
  const kind = truePeakDbtp > 0 ? 'Over' : 'Peak';
  return `${kind} ${index + 1} of ${places.length}, ${CHANNELS[channel].toLowerCase()}, at ${clock(frame / sampleRate, 3)}`;
}

/** Both channels around a frame. */
function wavesAround({ left, right }: StereoBuffer, frame: number, frames: number): DrawnWave[] {
  const start = Math.max(0, Math.min(left.length - frames, frame - frames / 2));
  const perFrame = Math.max(2, Math.floor(MOST_POINTS / frames));
  const span = { start, end: start + frames };
  return [left, right].map((channel) => ({
    samples: channel.subarray(start, start + frames + 1),
    wave: waveBetween(channel, span, perFrame),
    perFrame,
  }));
}

/** The samples around the highest true peaks and every over, with the wave that a converter makes of them. */
export function BetweenSamplesDialog({ onClose }: { onClose: () => void }) {
  const editor = useEditor();
  const palette = usePalette();
  const { sampleRate } = useMixLength();
  const heard = useAudition((state) => state.heard);
  const entries = useCandidates((state) => state.entries);
  // The master is rendered again after each change.
  useMeasurements((state) => state.rendered);
  const destinations = useTrack((state) => state.details.destinations);
  const [chosen, setChosen] = useState(heard);
  const [zoom, setZoom] = useState<number>(ZOOMS[2]);
  const [picked, setPicked] = useState<{ of: StereoBuffer; index: number } | null>(null);
  const entry = entries.find(({ id }) => id === chosen) ?? entries[0];
  const buffers = editor.audition.buffers();
  const buffer = Object.hasOwn(buffers, entry.id) ? buffers[entry.id] : null;
  const { places, problem } = usePlaces(buffer);
  const index = picked && picked.of === buffer ? picked.index : places?.length ? highestOf(places) : 0;
  const place = places?.at(index);
  const ceiling = destinations.reduce(
    (lowest, { settings }) => (settings.truePeak.maxDbtp < lowest.levelDb ? toLevel(settings) : lowest),
    { name: '', levelDb: 0 },
  );
  const levels = [{ name: 'full scale', levelDb: 0 }, ...(ceiling.levelDb < 0 ? [ceiling] : [])];
  const waves = buffer && place ? wavesAround(buffer, place.frame, zoom) : [];
  const top = topOf(waves);
  const go = (by: number) =>
    buffer && places && setPicked({ of: buffer, index: (index + by + places.length) % places.length });
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md">
      <DialogTitle>Between the samples</DialogTitle>
      <DialogContent>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mb: 1, pt: 1 }}>
          <TextField
            select
            size="small"
            label="Of"
            value={entry.id}
            onChange={({ target }) => setChosen(target.value)}
            sx={{ minWidth: 200 }}
          >
            {entries.map(({ id, full, share }) => (
              <MenuItem key={id} value={id} disabled={share !== null}>
                {full}
              </MenuItem>
            ))}
          </TextField>
          <IconButton aria-label="Previous peak" disabled={!place} onClick={() => go(-1)}>
            <PreviousIcon />
          </IconButton>
          <Box sx={{ flex: 1, textAlign: 'center' }} role="status">
            {place && places && (
              <>
                <b>{placeWords(places, index, sampleRate)}</b>
                <Box sx={{ fontFamily: FIGURE_FACE, fontSize: 13 }}>
                  {figure(place.truePeakDbtp, 2)} dBTP between samples of {figure(place.samplePeakDbfs, 2)} dBFS
                </Box>
              </>
            )}
          </Box>
          <IconButton aria-label="Next peak" disabled={!place} onClick={() => go(1)}>
            <NextIcon />
          </IconButton>
          <TextField
            select
            size="small"
            label="Shown"
            value={zoom}
            onChange={({ target }) => setZoom(Number(target.value))}
            sx={{ width: 130 }}
          >
            {ZOOMS.map((frames) => (
              <MenuItem key={frames} value={frames}>
                {frames} samples
              </MenuItem>
            ))}
          </TextField>
        </Box>
        {problem && <Alert severity="error">{problem}</Alert>}
        {!buffer && <Alert severity="info">This is still being rendered. Try again in a moment.</Alert>}
        {buffer && !places && !problem && <LinearProgress aria-label="Looking for the highest peaks" />}
        {places?.length === 0 && <Alert severity="info">There is only silence.</Alert>}
        {waves.map((wave, channel) => (
          <Box key={CHANNELS[channel]} sx={{ position: 'relative', height: 220, mb: 1 }}>
            <Picture
              label={`${CHANNELS[channel]}: samples and the wave between them`}
              draw={(surface) =>
                drawWave(
                  surface,
                  wave,
                  { top, levels, color: palette[candidateInk(entry.what.kind)], title: CHANNELS[channel] },
                  palette,
                )
              }
            />
          </Box>
        ))}
        <Box sx={{ fontSize: 13, color: 'text.secondary' }}>
          Dots are samples. The line is what a converter, an encoder or a change of the sample rate makes of them; it
          can be over full scale although no sample is. Its peaks are read off the line itself; verdicts read them by
          the 48-tap filter of ITU-R BS.1770, which can be some hundredths of a dB apart.
        </Box>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" disabled={!place} onClick={() => place && editor.transport.seek(place.frame)}>
          Go there in the track
        </Button>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function toLevel({ name, truePeak }: Destination) {
  return { name, levelDb: truePeak.maxDbtp };
}
