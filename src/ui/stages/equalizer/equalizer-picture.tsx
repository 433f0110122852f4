'use client';

import Box from '@mui/material/Box';
import { useMemo, useRef } from 'react';
import type { Stage } from '../../../core/lane/schema';
import type { Biquad } from '../../../core/signal/biquad';
import { bandSections, sectionsGainDb } from '../../../core/stages/equalizer/design';
import { effectiveBands, moves, type EqualizerBand } from '../../../core/stages/equalizer/settings';
import { useCanvas } from '../../kit/use-canvas';
import { change as signed, hertz } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useTrack, useTransport } from '../../track/context';
import { BandHandle } from './band-handle';
import { BOTTOM, frequencyAt, frequencyUnder, heldGain, LEFT, RIGHT, shareOf, TOP } from './equalizer-axes';
import { useSpectrumChoice, type Layer } from './spectrum-choice';
import { columnsOf, SPECTRUM_FLOOR, type SpectrumLine } from './spectrum-line';
import { SweepSurface } from './sweep-surface';
import type { Sweep } from './use-sweep';

const FREQUENCIES = [20, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000];
const SPECTRUM_TOP = -12;

/** The live lines before and after the stage. */
export interface Spectra {
  before: SpectrumLine;
  after: SpectrumLine;
}

export interface EqualizerPictureProps {
  stage: Extract<Stage, { kind: 'equalizer' }>;
  index: number;
  open: number;
  spectra: Spectra;
  sweep: Sweep;
  onOpen: (band: number) => void;
  onChange: (band: number, label: string, part: Partial<EqualizerBand>) => void;
  onAdd: (part: Partial<EqualizerBand>) => void;
  onRemove: (band: number) => void;
  onCommit: () => void;
}

/** A band without its dynamics, its gain moved by some dB. */
function movedBy(band: EqualizerBand, db: number): EqualizerBand {
  return { ...band, gainDb: band.gainDb + db, dynamics: null };
}

/** The curve with a handle for each band, the way that moving bands can go, and the spectrum behind it. */
export function EqualizerPicture({
  stage,
  index,
  open,
  spectra,
  sweep,
  onOpen,
  onChange,
  onAdd,
  onRemove,
  onCommit,
}: EqualizerPictureProps) {
  const editor = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const sampleRate = useTrack((state) => state.details.mix?.source.sampleRate ?? 44100);
  const average = useMeasurements((state) => state.measurement?.spectra[index]);
  const { layers, resolution, tiltDb } = useSpectrumChoice();
  const { settings } = stage;
  const { bands } = settings;
  const sounding = useMemo(() => effectiveBands(settings), [settings]);
  const range = bands.some(({ gainDb, dynamics }) => Math.abs(gainDb + (dynamics?.rangeDb ?? 0)) > 11) ? 20 : 12;
  const box = useRef<HTMLDivElement>(null);
  const shows = (layer: Layer) => layers.includes(layer);

  // The curve of both channels, and one for each part that has bands of its own: at rest, and moved as far as they go.
  const curves = useMemo(() => {
    const through = (part: EqualizerBand['part'], moved: boolean) =>
      sounding
        .filter((band) => band.part === 'stereo' || band.part === part)
        .flatMap((band) => bandSections(movedBy(band, moved && moves(band) ? band.dynamics.rangeDb : 0), sampleRate));
    const parts = [...new Set(sounding.map(({ part }) => part))].filter((part) => part !== 'stereo');
    return {
      rest: through('stereo', false),
      far: sounding.some((band) => moves(band) && band.part === 'stereo') ? through('stereo', true) : null,
      parts: parts.map((part) => ({ part, sections: through(part, false) })),
    };
  }, [sounding, sampleRate]);

  /** The curve of both channels now. */
  const current = (): Biquad[] => {
    const moved = playing ? editor.board.latest?.movements : undefined;
    if (!curves.far || !moved) return curves.rest;
    return sounding
      .filter(({ part }) => part === 'stereo')
      .flatMap((band) => bandSections(movedBy(band, moved[sounding.indexOf(band)] ?? 0), sampleRate));
  };

  const canvas = useCanvas(({ context, width, height }) => {
    const plot = width - LEFT - RIGHT;
    const body = height - TOP - BOTTOM;
    const x = (frequency: number) => LEFT + shareOf(frequency) * plot;
    const y = (db: number) =>
      TOP + ((range - Math.max(-range * 1.05, Math.min(range * 1.05, db))) / (2 * range)) * body;
    context.font = `10.5px ${FIGURE_FACE}`;
    context.textAlign = 'center';
    for (const frequency of FREQUENCIES) {
      context.fillStyle = palette.hairline;
      context.fillRect(x(frequency), TOP, 1, body);
      context.fillStyle = palette.quiet;
      context.fillText(hertz(frequency), Math.min(width - 16, x(frequency)), height - 6);
    }
    context.textAlign = 'right';
    const step = range / 4;
    for (let db = -range + step; db < range; db += step) {
      context.fillStyle = db === 0 ? palette.quiet : palette.hairline;
      context.fillRect(LEFT, y(db), plot, 1);
      context.fillStyle = palette.quiet;
      context.fillText(signed(db, 0), LEFT - 8, y(db) + 3.5);
    }

    context.save();
    context.beginPath();
    context.rect(LEFT, TOP, plot, body);
    context.clip();
    const columns = Math.max(2, Math.floor(plot / 2));
    const level = (db: number) => TOP + ((SPECTRUM_TOP - db) / (SPECTRUM_TOP - SPECTRUM_FLOOR)) * body;
    const { taps } = editor;
    const { before, after } = spectra;
    if (playing) {
      // Both at the same moment: the worklet goes on meanwhile.
      const [written] = taps.written;
      before.update(taps.before, written, columns, sampleRate);
      after.update(taps.after, written, columns, sampleRate);
    }
    const trace = (levels: Float32Array, place: (db: number) => number) => {
      context.beginPath();
      levels.forEach((db, i) => context.lineTo(LEFT + (i / (levels.length - 1)) * plot, place(db)));
    };
    const line = (levels: Float32Array, color: string, lineWidth: number, dash: number[] = [], place = level) => {
      if (levels.length === 0) return;
      trace(levels, place);
      context.setLineDash(dash);
      context.strokeStyle = color;
      context.lineWidth = lineWidth;
      context.stroke();
      context.setLineDash([]);
    };
    const live = before.levels.length > 0;
    if (shows('after') && live) {
      trace(after.levels, level);
      context.lineTo(LEFT + plot, TOP + body);
      context.lineTo(LEFT, TOP + body);
      context.globalAlpha = 0.25;
      context.fillStyle = palette.patina;
      context.fill();
      context.globalAlpha = 1;
    }
    if (shows('before')) line(before.levels, palette.copper, 1);
    if (shows('held')) line(after.held, palette.patina, 1);
    if (shows('average') && average) {
      const of = (bins: Float32Array) => columnsOf(bins, sampleRate, columns, resolution, tiltDb);
      line(of(average.before), palette.copper, 1.4, [1.5, 3]);
      line(of(average.after), palette.patina, 1.4, [1.5, 3]);
    }
    if (shows('difference') && live)
      line(
        after.levels.map((db, i) => (Math.max(db, before.levels[i]) > SPECTRUM_FLOOR + 6 ? db - before.levels[i] : 0)),
        palette.ink,
        1,
        [2, 2],
        y,
      );

    const gains = (of: readonly Biquad[]) =>
      Float32Array.from({ length: columns }, (_, i) => sectionsGainDb(of, frequencyAt(i / (columns - 1)), sampleRate));
    const rest = gains(curves.rest);
    if (curves.far) {
      // What moving bands can do lies between rest and the furthest.
      trace(rest, y);
      gains(curves.far).forEach((_, i, far) =>
        context.lineTo(LEFT + plot * (1 - i / (columns - 1)), y(far[columns - 1 - i])),
      );
      context.globalAlpha = 0.12;
      context.fillStyle = palette.ink;
      context.fill();
      context.globalAlpha = 1;
    }
    const band = sounding[open];
    if (band?.on) line(gains(bandSections(band, sampleRate)), palette.quiet, 1, [], y);
    context.font = `11px ${FIGURE_FACE}`;
    context.textAlign = 'left';
    curves.parts.forEach(({ part, sections }, i) => {
      line(gains(sections), palette.ink, 1.4, [6, 4], y);
      // Named where it lies furthest from the curve of both channels, inside the picture.
      const gain = (frequency: number) => sectionsGainDb(sections, frequency, sampleRate);
      const distance = (frequency: number) =>
        Math.abs(gain(frequency)) > 0.8 * range
          ? 0
          : Math.abs(gain(frequency) - sectionsGainDb(curves.rest, frequency, sampleRate));
      const at = FREQUENCIES.reduce((best, frequency) => (distance(frequency) > distance(best) ? frequency : best));
      context.fillStyle = palette.ink;
      context.fillText(part, Math.min(width - 60, x(at) + 4 + i * 2), y(gain(at)) - 5);
    });
    line(gains(current()), stage.on ? palette.ink : palette.quiet, 2.2, [], y);
    context.restore();
  }, playing);

  return (
    <Box
      ref={box}
      sx={{ position: 'absolute', inset: 0 }}
      onDoubleClick={({ target, clientX, clientY }) => {
        if (!(target instanceof HTMLCanvasElement)) return;
        const { top, height } = target.getBoundingClientRect();
        const db = range - ((clientY - top - TOP) / (height - TOP - BOTTOM)) * 2 * range;
        onAdd({ frequencyHz: frequencyUnder(target, clientX), gainDb: heldGain(db) });
      }}
    >
      <canvas ref={canvas} style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} aria-hidden />
      {bands.map((band, i) => (
        <BandHandle
          key={i}
          {...{ band, range, box, onCommit }}
          soundingDb={sounding[i].gainDb}
          perDb={settings.scalePercent / 100}
          index={i}
          open={i === open}
          onOpen={() => onOpen(i)}
          onChange={(label, part) => onChange(i, label, part)}
          onRemove={() => onRemove(i)}
        />
      ))}
      {sweep.armed && <SweepSurface sweep={sweep} />}
    </Box>
  );
}
