'use client';

import Box from '@mui/material/Box';
import { useGesture } from '@use-gesture/react';
import { useRef, useState } from 'react';
import { trailSeconds } from '../../../contracts/track-time';
import { clock, figure } from '../../kit/format';
import { PointerReadout, type PointerPlace } from '../../kit/pointer-readout';
import { useCanvas } from '../../kit/use-canvas';
import { TEXT_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import {
  useEditor,
  useLane,
  useLiveReadings,
  useMeasurements,
  useMixLength,
  useNotes,
  useSelection,
  useTrack,
  useTransport,
} from '../context';
import { drawEdges } from './draw-edges';
import { drawNote, noteNear } from './draw-note';
import { AXIS, drawProgramme } from './draw-programme';
import { NOTE_TITLES } from '../notes/note-text';
import { panned, zoomed, type View } from './view';

const CLICK_PIXELS = 4;
/** A note is told when the pointer is this near. */
const NOTE_PIXELS = 6;

/** The whole track: mix outline over the master's body, short-term loudness, overs, loudest passage, loop and playhead. */
export function Programme() {
  const editor = useEditor();
  const palette = usePalette();
  const audio = useTrack((state) => state.audio);
  const { frames, sampleRate } = useMixLength();
  const measurement = useMeasurements((state) => state.measurement);
  const rendered = useMeasurements((state) => state.rendered);
  const loop = useTransport((state) => state.loop);
  const loudest = useTrack((state) => state.details.mix?.report?.loudest);
  const playing = useTransport((state) => state.playing);
  const notes = useNotes((state) => state.notes);
  const trail = useTrack(({ details }) => trailSeconds(details.mix, details.mixes));
  // At rest the playhead moves when the worklet says so.
  useLiveReadings();
  const zoom = useSelection((state) => state.view);
  const view = zoom ?? { start: 0, end: frames };
  const edges = useLane((state) => state.version.lane.edges);
  const [drag, setDrag] = useState<View | null>(null);

  const still = useCanvas((surface) => {
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
      context.font = `600 12px ${TEXT_FACE}`;
      context.textAlign = 'left';
      context.fillText('loudest passage', Math.max(4, x(loudest.start) + 4), 11);
    }
    const region = drag ?? loop;
    if (region) {
      band(region.start, region.end, palette.ink, 0.1);
      context.fillStyle = palette.ink;
      for (const edge of [region.start, region.end]) context.fillRect(x(edge) - 0.5, 0, 1, height - AXIS);
    }
    if (edges) drawEdges(surface, edges, { sampleRate, frames, x, bottom: height - AXIS }, palette);
    for (const note of notes) drawNote(surface, note, (seconds) => x((seconds + trail) * sampleRate), palette);
    drawProgramme(
      surface,
      view,
      sampleRate,
      { reading: measurement?.mix ?? null, samples: audio },
      { reading: measurement?.master ?? null, samples: rendered },
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
  }, playing);

  const box = useRef<HTMLDivElement>(null);
  const frameAt = (clientX: number) => {
    const { left, width } = box.current!.getBoundingClientRect();
    return Math.round(view.start + (Math.min(width, Math.max(0, clientX - left)) / width) * (view.end - view.start));
  };

  /** The time, and the short-term loudness of the three seconds that end there. */
  const under = ({ x, width }: PointerPlace) => {
    const seconds = (view.start + (x / width) * (view.end - view.start)) / sampleRate;
    const lufs = measurement?.master.shortTerm[Math.round(seconds * 10) - 1];
    const loudness = lufs === undefined || lufs === -Infinity ? '' : `  short-term ${figure(lufs)} LUFS`;
    const note = noteNear(notes, seconds - trail, (NOTE_PIXELS / width) * ((view.end - view.start) / sampleRate));
    return `${clock(seconds, 1)}${loudness}${note ? `  ${NOTE_TITLES[note.kind].toLowerCase()}: ${note.text}` : ''}`;
  };

  useGesture(
    {
      onWheel({ event, last }) {
        // The end of turning is told once more, with the same event.
        if (!audio || last) return;
        event.preventDefault();
        const sideways = event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY);
        editor.selection.view(
          sideways
            ? panned(view, frames, (event.deltaX || event.deltaY) / 1000)
            : zoomed(view, frames, frameAt(event.clientX), event.deltaY),
        );
      },
      onDrag({ initial: [from], xy: [to], tap, last }) {
        if (!audio) return;
        if (tap) return editor.transport.seek(frameAt(to));
        const [a, b] = [frameAt(from), frameAt(to)];
        const region = { start: Math.min(a, b), end: Math.max(a, b) };
        setDrag(last ? null : region);
        // Loops shorter than a tenth of a second are slips of the hand.
        if (last && region.end - region.start > sampleRate / 10) editor.transport.setLoop(region);
      },
    },
    { target: box, drag: { filterTaps: true, threshold: CLICK_PIXELS }, eventOptions: { passive: false } },
  );

  return (
    <Box
      ref={box}
      role="slider"
      aria-label="Programme: click to seek, drag to loop, wheel to zoom"
      aria-valuemin={0}
      aria-valuemax={Math.round(frames / sampleRate)}
      aria-valuenow={Math.round((editor.board.latest?.frame ?? 0) / sampleRate)}
      tabIndex={0}
      data-playing={playing}
      onDoubleClick={() => editor.selection.view(null)}
      onKeyDown={(event) => {
        const step = { ArrowLeft: -5, ArrowDown: -5, ArrowRight: 5, ArrowUp: 5, PageDown: -30, PageUp: 30 }[event.key];
        if (event.ctrlKey || event.metaKey || event.altKey) return;
        if (step !== undefined) editor.navigation.skip(step);
        else if (event.key === 'Home') editor.transport.seek(0);
        else if (event.key === 'End') editor.transport.seek(frames - 1);
        else return;
        event.preventDefault();
      }}
      sx={{
        position: 'relative',
        flexShrink: 0,
        height: 'clamp(128px, 16vh, 220px)',
        borderBottom: 1,
        borderColor: 'divider',
        cursor: 'text',
        touchAction: 'none',
        '& canvas': { position: 'absolute', inset: 0, width: '100%', height: '100%' },
      }}
    >
      <canvas ref={still} aria-hidden />
      <canvas ref={moving} aria-hidden />
      <PointerReadout box={box} text={under} />
    </Box>
  );
}
