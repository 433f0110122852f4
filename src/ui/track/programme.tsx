'use client';

import Box from '@mui/material/Box';
import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { PICTURE_FRAMES, type Audio, type ProgrammeReading } from '../../engine/measure/measurement';
import { useCanvas, type Surface } from '../kit/use-canvas';
import { clock } from '../kit/format';
import type { Palette } from '../theme/palette';
import { FIGURE_FACE, TEXT_FACE } from '../theme/theme';
import { usePalette } from '../theme/use-palette';
import { useEditor, useMeasurements, useTrack, useTransport } from './context';

/** The part of the track in view, in frames. */
interface View {
  start: number;
  end: number;
}

const AXIS = 16;
const TOP = 12;
const CLICK_PIXELS = 4;
const MIN_VIEW = 64;
const TIME_STEPS = [0.001, 0.002, 0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 30, 60, 120, 300, 600];
const LOUDNESS_FLOOR = -40;

/** Lowest and highest value in each column of pixels, from the picture or, when zoomed in, from the samples. */
function envelope(
  view: View,
  width: number,
  picture: Float32Array | null,
  left: Float32Array,
  right: Float32Array,
): [low: Float32Array, high: Float32Array] {
  const low = new Float32Array(width);
  const high = new Float32Array(width);
  const perColumn = (view.end - view.start) / width;
  const coarse = picture !== null && perColumn > PICTURE_FRAMES * 2;
  for (let x = 0; x < width; x++) {
    const from = view.start + x * perColumn;
    const to = from + Math.max(1, perColumn);
    let l = Infinity;
    let h = -Infinity;
    if (coarse) {
      const last = Math.min(picture.length / 2 - 1, Math.ceil(to / PICTURE_FRAMES) - 1);
      for (let bin = Math.floor(from / PICTURE_FRAMES); bin <= last; bin++) {
        l = Math.min(l, picture[bin * 2]);
        h = Math.max(h, picture[bin * 2 + 1]);
      }
    } else {
      for (let i = Math.floor(from); i < to && i < left.length; i++) {
        l = Math.min(l, left[i], right[i]);
        h = Math.max(h, left[i], right[i]);
      }
    }
    low[x] = l === Infinity ? 0 : l;
    high[x] = h === -Infinity ? 0 : h;
  }
  return [low, high];
}

function drawStill(
  surface: Surface,
  view: View,
  audio: Audio,
  mix: ProgrammeReading | null,
  master: { reading: ProgrammeReading; left: Float32Array; right: Float32Array } | null,
  palette: Palette,
) {
  const { context, width, height } = surface;
  const body = height - AXIS - TOP;
  const middle = TOP + body / 2;
  const y = (value: number) => middle - (Math.max(-1.05, Math.min(1.05, value)) * body) / 2.1;
  const columns = Math.round(width);
  const second = (seconds: number) => ((seconds * audio.sampleRate - view.start) / (view.end - view.start)) * width;

  const path = (low: Float32Array, high: Float32Array) => {
    context.beginPath();
    for (let x = 0; x < columns; x++) context.lineTo(x, y(high[x]));
    for (let x = columns - 1; x >= 0; x--) context.lineTo(x, y(low[x]));
    context.closePath();
  };
  if (master) {
    const [low, high] = envelope(view, columns, master.reading.picture, master.left, master.right);
    path(low, high);
    context.fillStyle = palette.patina;
    context.globalAlpha = 0.72;
    context.fill();
    context.globalAlpha = 1;
  }
  const [low, high] = envelope(view, columns, mix?.picture ?? null, audio.left, audio.right);
  context.strokeStyle = palette.copper;
  context.lineWidth = 1.1;
  for (const edge of [high, low]) {
    context.beginPath();
    for (let x = 0; x < columns; x++) context.lineTo(x, y(edge[x]));
    context.stroke();
  }

  if (master) {
    const { shortTerm, overs } = master.reading;
    context.beginPath();
    context.strokeStyle = palette.ink;
    context.lineWidth = 1.4;
    let last: number | null = null;
    shortTerm.forEach((lufs, i) => {
      if (lufs === -Infinity) return;
      last = TOP + body * Math.min(1, Math.max(0, lufs / LOUDNESS_FLOOR));
      context.lineTo(second((i + 1) / 10), last);
    });
    context.stroke();
    if (last !== null) {
      context.font = `10.5px ${FIGURE_FACE}`;
      context.textAlign = 'right';
      context.fillStyle = palette.ink;
      context.fillText('short-term', width - 6, Math.min(height - AXIS - 4, (last as number) - 5));
    }
    context.fillStyle = palette.brick;
    for (const over of overs) context.fillRect(second(over), 0, 1.5, 9);
  }

  context.font = `10.5px ${FIGURE_FACE}`;
  context.textAlign = 'center';
  context.fillStyle = palette.quiet;
  const span = (view.end - view.start) / audio.sampleRate;
  const step = TIME_STEPS.find((candidate) => (span / candidate) * 62 < width) ?? 600;
  const decimals = step >= 1 ? 0 : step >= 0.1 ? 1 : step >= 0.01 ? 2 : 3;
  for (
    let time = Math.ceil(view.start / audio.sampleRate / step) * step;
    time < view.end / audio.sampleRate;
    time += step
  ) {
    const x = second(time);
    if (x > 18 && x < width - 18) context.fillText(clock(time, decimals), x, height - 4);
  }
}

/** The whole track: mix outline over the master's body, short-term loudness, overs, loudest passage, loop and playhead. */
export function Programme() {
  const editor = useEditor();
  const palette = usePalette();
  const audio = useTrack((state) => state.audio);
  const measurement = useMeasurements((state) => state.measurement);
  const loop = useTransport((state) => state.loop);
  const loudest = useTrack((state) => state.details.mix?.report?.loudest);
  const playing = useTransport((state) => state.playing);
  const frames = audio?.left.length ?? 1;
  const [zoom, setZoom] = useState<View | null>(null);
  const view = zoom ?? { start: 0, end: frames };
  const [drag, setDrag] = useState<{ from: number; to: number } | null>(null);

  const still = useCanvas((surface) => {
    if (!audio) return;
    const { context, width, height } = surface;
    const x = (frame: number) => ((frame - view.start) / (view.end - view.start)) * width;
    const band = (from: number, to: number, color: string, alpha: number) => {
      context.globalAlpha = alpha;
      context.fillStyle = color;
      context.fillRect(x(from), 0, x(to) - x(from), height - AXIS);
      context.globalAlpha = 1;
    };
    if (loudest) {
      band(loudest.start, loudest.end, palette.ochre, 0.13);
      context.fillStyle = palette.ochre;
      context.font = `600 11px ${TEXT_FACE}`;
      context.textAlign = 'left';
      context.fillText('loudest passage', Math.max(4, x(loudest.start) + 4), 11);
    }
    const region = drag ? { start: Math.min(drag.from, drag.to), end: Math.max(drag.from, drag.to) } : loop;
    if (region) {
      band(region.start, region.end, palette.ink, 0.1);
      context.fillStyle = palette.ink;
      for (const edge of [region.start, region.end]) context.fillRect(x(edge) - 0.5, 0, 1, height - AXIS);
    }
    drawStill(
      surface,
      view,
      audio,
      measurement?.mix ?? null,
      measurement ? { reading: measurement.master, left: measurement.left, right: measurement.right } : null,
      palette,
    );
  }, false);

  const moving = useCanvas(({ context, width, height }) => {
    const frame = editor.board.latest?.frame ?? 0;
    const x = ((frame - view.start) / (view.end - view.start)) * width;
    context.fillStyle = palette.ink;
    context.fillRect(x - 0.75, 0, 1.5, height - AXIS);
    context.beginPath();
    context.moveTo(x - 5, 0);
    context.lineTo(x + 5, 0);
    context.lineTo(x, 7);
    context.fill();
  }, true);

  const box = useRef<HTMLDivElement>(null);
  const frameAt = (clientX: number) => {
    const { left, width } = box.current!.getBoundingClientRect();
    return Math.round(view.start + (Math.min(width, Math.max(0, clientX - left)) / width) * (view.end - view.start));
  };

  const onWheel = useRef((_: WheelEvent) => {});
  onWheel.current = (event) => {
    if (!audio) return;
    event.preventDefault();
    const span = view.end - view.start;
    if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) {
      const shift = Math.max(-view.start, Math.min(frames - view.end, ((event.deltaX || event.deltaY) / 1000) * span));
      return setZoom({ start: view.start + shift, end: view.end + shift });
    }
    const next = Math.max(MIN_VIEW, Math.min(frames, span * 1.2 ** Math.sign(event.deltaY)));
    if (next >= frames) return setZoom(null);
    const at = frameAt(event.clientX);
    const start = Math.max(0, Math.min(frames - next, at - ((at - view.start) / span) * next));
    setZoom({ start, end: start + next });
  };
  useEffect(() => {
    const element = box.current;
    const listener = (event: WheelEvent) => onWheel.current(event);
    element?.addEventListener('wheel', listener, { passive: false });
    return () => element?.removeEventListener('wheel', listener);
  }, []);

  const down = useRef<number | null>(null);
  const pointer = {
    onPointerDown: (event: PointerEvent) => {
      if (!audio || event.button !== 0) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      down.current = event.clientX;
    },
    onPointerMove: (event: PointerEvent) => {
      if (down.current === null || Math.abs(event.clientX - down.current) < CLICK_PIXELS) return;
      setDrag({ from: frameAt(down.current), to: frameAt(event.clientX) });
    },
    onPointerUp: (event: PointerEvent) => {
      if (down.current === null) return;
      if (drag) {
        const [start, end] = [Math.min(drag.from, drag.to), Math.max(drag.from, drag.to)];
        // Shorter loops than a tenth of a second are slips of the hand.
        if (audio && end - start > audio.sampleRate / 10) editor.transport.setLoop({ start, end });
      } else editor.transport.seek(frameAt(event.clientX));
      down.current = null;
      setDrag(null);
    },
  };

  return (
    <Box
      ref={box}
      {...pointer}
      role="slider"
      aria-label="Programme: click to seek, drag to loop, wheel to zoom"
      aria-valuemin={0}
      aria-valuemax={Math.round(frames / (audio?.sampleRate ?? 1))}
      aria-valuenow={Math.round((editor.board.latest?.frame ?? 0) / (audio?.sampleRate ?? 1))}
      tabIndex={0}
      data-playing={playing}
      onDoubleClick={() => setZoom(null)}
      onKeyDown={(event) => {
        if (event.key === 'Home') editor.transport.seek(0);
      }}
      sx={{
        position: 'relative',
        height: 138,
        borderBottom: 1,
        borderColor: 'divider',
        cursor: 'text',
        touchAction: 'none',
        '& canvas': { position: 'absolute', inset: 0, width: '100%', height: '100%' },
      }}
    >
      <canvas ref={still} aria-hidden />
      <canvas ref={moving} aria-hidden />
    </Box>
  );
}
