'use client';

import Box from '@mui/material/Box';
import { useGesture } from '@use-gesture/react';
import { useRef, type KeyboardEvent, type RefObject } from 'react';
import { hasGain, hasQ, hasSlope, moves, type EqualizerBand } from '../../../core/stages/equalizer/settings';
import { change as signed, figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { useDrag } from '../../kit/use-drag';
import { BOTTOM, heldFrequency, heldGain, HIGH, LEFT, LOW, RIGHT, shareOf, TOP } from './equalizer-axes';

/** Where a band without gain is drawn, in dB. */
const GAINLESS_DB = -3;

export interface BandHandleProps {
  band: EqualizerBand;
  index: number;
  open: boolean;
  /** Gain of the curve there, scaled and shifted, and how much of it a dB of the band is. */
  soundingDb: number;
  perDb: number;
  /** dB from the middle of the picture to its top. */
  range: number;
  /** The box that the picture fills. */
  box: RefObject<HTMLDivElement | null>;
  onOpen: () => void;
  onChange: (label: string, part: Partial<EqualizerBand>) => void;
  onRemove: () => void;
  onCommit: () => void;
}

function valueText(band: EqualizerBand): string {
  const place = `${figure(band.frequencyHz, 0)} Hz, `;
  if (hasSlope(band)) return `${place}${band.slopeDbPerOctave} dB/octave`;
  if (!hasGain(band)) return `${place}Q ${figure(band.q, 2)}`;
  const moving = moves(band) ? `, follows the level by up to ${signed(band.dynamics.rangeDb)} dB` : '';
  return `${place}${signed(band.gainDb)} dB${moving}`;
}

/** A band in the picture: dragged, or moved by keys. */
export function BandHandle({
  band,
  index,
  open,
  soundingDb,
  perDb,
  range,
  box,
  onOpen,
  onChange,
  onRemove,
  onCommit,
}: BandHandleProps) {
  const { frequencyHz, gainDb, q } = band;
  const label = `Move band ${index + 1}`;

  const onDrag = useDrag(({ first, last, movement: [x, y], shiftKey, memo, event }) => {
    event.stopPropagation();
    if (first) onOpen();
    const from = first ? { frequencyHz, gainDb } : (memo as { frequencyHz: number; gainDb: number });
    // Shift makes the drag ten times finer.
    const fine = shiftKey ? 0.1 : 1;
    const { width, height } = box.current!.getBoundingClientRect();
    const octaves = ((x * fine) / (width - LEFT - RIGHT)) * Math.log2(HIGH / LOW);
    // The handle sits on the curve as it sounds.
    const perPixel = (2 * range) / (height - TOP - BOTTOM) / (perDb || 1);
    const moved = {
      frequencyHz: heldFrequency(from.frequencyHz * 2 ** octaves),
      gainDb: heldGain(from.gainDb - y * fine * perPixel),
    };
    if (x !== 0 || y !== 0) onChange(label, hasGain(band) ? moved : { frequencyHz: moved.frequencyHz });
    if (last) onCommit();
    return from;
  });
  /** Another Q: narrower above 0, broader below. */
  const narrow = (direction: number) => ({ q: Number(Math.min(30, Math.max(0.1, q * 1.1 ** direction)).toFixed(2)) });
  const handle = useRef<HTMLButtonElement>(null);
  useGesture(
    {
      onWheel({ event, last }) {
        // The end of turning is told once more, with the same event.
        if (last) return onCommit();
        // Not passive, so that the page does not scroll along.
        event.preventDefault();
        if (hasQ(band)) onChange(label, narrow(event.deltaY < 0 ? 1 : -1));
      },
    },
    { target: handle, eventOptions: { passive: false } },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const fine = event.shiftKey;
    const shift = (direction: number) => ({
      frequencyHz: heldFrequency(frequencyHz * 2 ** (direction * (fine ? 1 / 48 : 1 / 12))),
    });
    const lift = (direction: number) => ({ gainDb: heldGain(gainDb + direction * (fine ? 0.1 : 0.5)) });
    const parts: Record<string, () => Partial<EqualizerBand>> = {
      ArrowLeft: () => shift(-1),
      ArrowRight: () => shift(1),
      ArrowUp: () => lift(1),
      ArrowDown: () => lift(-1),
      PageUp: () => narrow(1),
      PageDown: () => narrow(-1),
    };
    if (event.key === 'Delete' || event.key === 'Backspace') onRemove();
    else if (parts[event.key]) onChange(label, parts[event.key]());
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const db = hasGain(band) ? soundingDb : GAINLESS_DB;
  const height = Math.min(1, Math.max(0, (range - db) / (2 * range)));
  return (
    <Box
      component="button"
      ref={handle}
      {...onDrag()}
      onKeyDown={onKeyDown}
      role="slider"
      aria-label={`Band ${index + 1} (arrow keys move it, page keys change its Q, delete removes it)`}
      aria-valuetext={valueText(band)}
      aria-valuemin={LOW}
      aria-valuemax={HIGH}
      aria-valuenow={frequencyHz}
      onFocus={onOpen}
      sx={{
        ...{ position: 'absolute', width: 24, height: 24, ml: '-12px', mt: '-12px', p: 0, touchAction: 'none' },
        ...{ borderRadius: 1.25, cursor: 'grab', border: '1.5px solid', borderColor: 'text.primary' },
        ...{ font: `600 12px ${FIGURE_FACE}`, opacity: band.on ? 1 : 0.5 },
        ...(moves(band) && { outline: '1px solid', outlineColor: 'text.secondary', outlineOffset: '2px' }),
        bgcolor: open ? 'text.primary' : 'background.paper',
        color: open ? 'background.paper' : 'text.primary',
      }}
      style={{
        left: `calc(${LEFT}px + (100% - ${LEFT + RIGHT}px) * ${shareOf(frequencyHz)})`,
        top: `calc(${TOP}px + (100% - ${TOP + BOTTOM}px) * ${height})`,
      }}
    >
      {index + 1}
    </Box>
  );
}
