'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useGesture } from '@use-gesture/react';
import { useRef, useState } from 'react';
import { EdgeGain, type Edges } from '../../../core/sequence/edges';
import { zeroCrossingNear } from '../../../core/sequence/zero-crossing';
import type { Audio } from '../../../engine/measure/measurement';
import { clock } from '../../kit/format';
import { Picture } from '../../kit/picture';
import { FOCUS_RING } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { zoomed, type View } from '../programme/view';
import { drawEdge } from './draw-edge';

/** Seconds that are shown at first. */
const SHOWN_SECONDS = 4;
/** How far from the pointer a zero crossing is looked for, in pixels. */
const SNAP_PIXELS = 8;
/** Steps of the arrow keys in seconds; with Shift it is one frame. */
const STEP_SECONDS = 0.001;
const LARGE_SECONDS = 0.1;

function around(edge: number, { left, sampleRate }: Audio): View {
  const span = Math.min(left.length, SHOWN_SECONDS * sampleRate);
  const start = Math.max(0, Math.min(left.length - span, edge - span / 2));
  return { start, end: start + span };
}

/** The mix around one edge, which is dragged there; wheel and buttons zoom in to single samples. */
export function EdgePicture({
  title,
  audio,
  edges,
  edge,
  snap,
  withEdge,
  onMove,
}: {
  title: string;
  audio: Audio;
  edges: Edges;
  /** Frame of the edge. */
  edge: number;
  /** Whether a dragged edge goes to the nearest zero crossing. */
  snap: boolean;
  /** The edges with this one at a frame. */
  withEdge: (frame: number) => Edges;
  onMove: (frame: number) => void;
}) {
  const palette = usePalette();
  const { left, right, sampleRate } = audio;
  const frames = left.length;
  const [view, setView] = useState<View>(() => around(edge, audio));
  const [dragged, setDragged] = useState<number | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const at = dragged ?? edge;
  // An edge that was typed is followed, before it is drawn.
  if (dragged === null && (edge < view.start || edge > view.end)) setView(around(edge, audio));
  const zoom = (direction: number, frame = at) =>
    setView(zoomed(view, frames, frame, direction) ?? { start: 0, end: frames });
  const frameAt = (clientX: number) => {
    const { left: from, width } = box.current!.getBoundingClientRect();
    const share = Math.min(1, Math.max(0, (clientX - from) / width));
    const frame = Math.round(view.start + share * (view.end - view.start));
    const within = Math.round((SNAP_PIXELS / width) * (view.end - view.start));
    return Math.min(frames, snap ? zeroCrossingNear(left, right, frame, within) : frame);
  };
  useGesture(
    {
      onWheel({ event, last }) {
        if (last) return;
        event.preventDefault();
        zoom(event.deltaY, frameAt(event.clientX));
      },
      onDrag({ xy: [x], last }) {
        setDragged(last ? null : frameAt(x));
        if (last) onMove(frameAt(x));
      },
    },
    { target: box, drag: { pointer: { keys: false } }, eventOptions: { passive: false } },
  );
  return (
    <Box>
      <Box
        ref={box}
        role="slider"
        tabIndex={0}
        aria-label={`${title}: drag to move it, wheel to zoom`}
        aria-valuemin={0}
        aria-valuemax={frames}
        aria-valuenow={at}
        aria-valuetext={clock(at / sampleRate, 4)}
        onKeyDown={(event) => {
          const direction = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1, PageDown: -1, PageUp: 1 }[
            event.key
          ];
          if (direction === undefined) return;
          event.preventDefault();
          event.stopPropagation();
          const step = event.key.startsWith('Page') ? LARGE_SECONDS : STEP_SECONDS;
          onMove(at + direction * (event.shiftKey ? 1 : Math.round(step * sampleRate)));
        }}
        sx={{
          position: 'relative',
          height: 150,
          border: 1,
          borderColor: 'divider',
          cursor: 'ew-resize',
          touchAction: 'none',
          '&:focus-visible': FOCUS_RING,
        }}
      >
        <Picture
          draw={(surface) =>
            drawEdge(
              surface,
              view,
              audio,
              new EdgeGain(dragged === null ? edges : withEdge(dragged), sampleRate, frames),
              at,
              palette,
            )
          }
        />
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', fontSize: 12.5, color: 'text.secondary' }}>
        <Box sx={{ flex: 1 }}>
          {clock(view.start / sampleRate, 3)} to {clock(view.end / sampleRate, 3)}
        </Box>
        <Button size="small" color="inherit" aria-label={`${title}: zoom in`} onClick={() => zoom(-1)}>
          Zoom in
        </Button>
        <Button size="small" color="inherit" aria-label={`${title}: zoom out`} onClick={() => zoom(1)}>
          Zoom out
        </Button>
      </Box>
    </Box>
  );
}
