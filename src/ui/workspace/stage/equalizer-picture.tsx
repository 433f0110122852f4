'use client';

import Box from '@mui/material/Box';
import { useMemo, useRef, type KeyboardEvent, type PointerEvent } from 'react';
import type { Stage } from '../../../core/lane/schema';
import type { Biquad } from '../../../core/signal/biquad';
import { SpectrumAnalyser } from '../../../core/measure/spectrum';
import { bandSections, sectionsGainDb } from '../../../core/stages/equalizer/design';
import { hasGain, PARTS, type EqualizerBand } from '../../../core/stages/equalizer/settings';
import { TAP_FRAMES } from '../../../engine/live/protocol';
import { useCanvas } from '../../charts/use-canvas';
import { change as signed, figure, hertz } from '../../format';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useSession, useWorkspace } from '../context';

const LOW = 20;
const HIGH = 20000;
const LEFT = 44;
const RIGHT = 12;
const TOP = 8;
const BOTTOM = 20;
const FREQUENCIES = [20, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000];
const SIZE = 8192;
const SPECTRUM_TOP = -12;
const SPECTRUM_FLOOR = -96;
/** Music falls by about this much an octave; taking it out lets the eye compare lows with highs. */
const TILT_DB = 3;
const SMOOTH_OCTAVES = 1 / 8;
const FALL_DB = 1.2;

export interface EqualizerPictureProps {
  stage: Extract<Stage, { kind: 'equalizer' }>;
  open: number;
  onOpen: (band: number) => void;
  onChange: (band: number, label: string, part: Partial<EqualizerBand>) => void;
  onAdd: (part: Partial<EqualizerBand>) => void;
  onRemove: (band: number) => void;
  onCommit: () => void;
}

/** Turns bins into a line over logarithmic frequency; levels fall slowly, so that a glance catches them. */
class SpectrumLine {
  private readonly analyser = new SpectrumAnalyser(SIZE);
  private readonly frame = new Float32Array(SIZE);
  private readonly bins = new Float32Array(SIZE / 2);
  levels = new Float32Array(0);

  update(ring: Float32Array, written: number, columns: number, sampleRate: number): void {
    for (let i = 0; i < SIZE; i++) this.frame[i] = ring[(written - SIZE + i + TAP_FRAMES) % TAP_FRAMES];
    this.analyser.levels(this.frame, this.bins);
    if (this.levels.length !== columns) this.levels = new Float32Array(columns).fill(SPECTRUM_FLOOR);
    const reach = 2 ** SMOOTH_OCTAVES;
    for (let x = 0; x < columns; x++) {
      const f = LOW * (HIGH / LOW) ** (x / (columns - 1));
      const centre = (f / sampleRate) * SIZE;
      // At least the two neighbouring bins, so that low frequencies are joined by a line instead of steps.
      const low = Math.min(centre / reach, centre - 1);
      const high = Math.max(centre * reach, centre + 1);
      let sum = 0;
      let weights = 0;
      for (let k = Math.max(1, Math.ceil(low)); k <= high && k < SIZE / 2; k++) {
        const weight = k < centre ? (k - low) / (centre - low) : (high - k) / (high - centre);
        sum += weight * 10 ** (this.bins[k] / 10);
        weights += weight;
      }
      const level = weights > 0 ? 10 * Math.log10(sum / weights + 1e-12) : SPECTRUM_FLOOR;
      const tilted = level + TILT_DB * Math.log2(f / 1000);
      this.levels[x] = Math.max(tilted, this.levels[x] - FALL_DB);
    }
  }
}

/** The curve with a handle for each band, and the live spectrum before and after behind it. */
export function EqualizerPicture({ stage, open, onOpen, onChange, onAdd, onRemove, onCommit }: EqualizerPictureProps) {
  const session = useSession();
  const palette = usePalette();
  const playing = useWorkspace((state) => state.playing);
  const sampleRate = useWorkspace((state) => state.workspace.mix?.source.sampleRate ?? 44100);
  const { bands, scalePercent } = stage.settings;
  const range = bands.some(({ gainDb }) => Math.abs(gainDb) > 11) ? 20 : 12;
  const box = useRef<HTMLDivElement>(null);
  const spectra = useMemo(() => ({ before: new SpectrumLine(), after: new SpectrumLine() }), []);
  // The curve that both sides hear, and one for each part that has bands of its own.
  const curves = useMemo(() => {
    const through = (part: EqualizerBand['part']) =>
      bands
        .filter((band) => band.part === 'stereo' || band.part === part)
        .flatMap((band) => bandSections(band, sampleRate, scalePercent));
    const parts = PARTS.filter((part) => part !== 'stereo' && bands.some((band) => band.part === part));
    return { stereo: through('stereo'), parts: parts.map((part) => ({ part, sections: through(part) })) };
  }, [bands, sampleRate, scalePercent]);

  const fractionOf = (frequency: number) => Math.log(frequency / LOW) / Math.log(HIGH / LOW);
  const heightOf = (db: number) => (range - db) / (2 * range);

  const canvas = useCanvas(({ context, width, height }) => {
    const plot = width - LEFT - RIGHT;
    const body = height - TOP - BOTTOM;
    const x = (frequency: number) => LEFT + fractionOf(frequency) * plot;
    const y = (db: number) => TOP + heightOf(Math.max(-range * 1.05, Math.min(range * 1.05, db))) * body;
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
    const { taps } = session;
    if (playing) {
      spectra.before.update(taps.before, taps.written[0], columns, sampleRate);
      spectra.after.update(taps.after, taps.written[0], columns, sampleRate);
    }
    const trace = (levels: Float32Array) => {
      context.beginPath();
      levels.forEach((db, i) => context.lineTo(LEFT + (i / (levels.length - 1)) * plot, level(db)));
    };
    if (spectra.after.levels.length > 0) {
      trace(spectra.after.levels);
      context.lineTo(LEFT + plot, TOP + body);
      context.lineTo(LEFT, TOP + body);
      context.globalAlpha = 0.25;
      context.fillStyle = palette.patina;
      context.fill();
      context.globalAlpha = 0.85;
      trace(spectra.before.levels);
      context.strokeStyle = palette.copper;
      context.lineWidth = 1.1;
      context.stroke();
      context.globalAlpha = 1;
    }

    const drawCurve = (of: Biquad[], color: string, lineWidth: number) => {
      context.beginPath();
      for (let i = 0; i <= columns; i++) {
        const frequency = LOW * (HIGH / LOW) ** (i / columns);
        context.lineTo(LEFT + (i / columns) * plot, y(sectionsGainDb(of, frequency, sampleRate)));
      }
      context.strokeStyle = color;
      context.lineWidth = lineWidth;
      context.stroke();
    };
    const band = bands[open];
    if (band?.on) drawCurve(bandSections(band, sampleRate, scalePercent), palette.quiet, 1);
    context.font = `11px ${FIGURE_FACE}`;
    context.textAlign = 'left';
    curves.parts.forEach(({ part, sections }, i) => {
      context.setLineDash([6, 4]);
      drawCurve(sections, palette.ink, 1.4);
      context.setLineDash([]);
      // Named where it lies furthest from the curve of both sides, inside the picture.
      const gain = (frequency: number) => sectionsGainDb(sections, frequency, sampleRate);
      const distance = (frequency: number) =>
        Math.abs(gain(frequency)) > 0.8 * range
          ? 0
          : Math.abs(gain(frequency) - sectionsGainDb(curves.stereo, frequency, sampleRate));
      const at = FREQUENCIES.reduce((best, frequency) => (distance(frequency) > distance(best) ? frequency : best));
      context.fillStyle = palette.ink;
      context.fillText(part, Math.min(width - 60, x(at) + 4 + i * 2), y(gain(at)) - 5);
    });
    drawCurve(curves.stereo, stage.on ? palette.ink : palette.quiet, 2.2);
    context.restore();
  }, playing);

  /** Frequency and gain at a point of the page. */
  const at = ({ clientX, clientY }: { clientX: number; clientY: number }) => {
    const { left, top, width, height } = box.current!.getBoundingClientRect();
    const fx = (clientX - left - LEFT) / (width - LEFT - RIGHT);
    const fy = (clientY - top - TOP) / (height - TOP - BOTTOM);
    const frequency = LOW * (HIGH / LOW) ** Math.min(1, Math.max(0, fx));
    return {
      frequencyHz: Math.round(frequency),
      gainDb: Math.round(Math.max(-18, Math.min(18, range - fy * 2 * range)) * 10) / 10,
    };
  };

  const dragging = useRef<{ band: number; x: number; y: number; frequencyHz: number; gainDb: number } | null>(null);
  const handle = (band: number) => ({
    onPointerDown: (event: PointerEvent) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      event.stopPropagation();
      onOpen(band);
      const { frequencyHz, gainDb } = bands[band];
      dragging.current = { band, x: event.clientX, y: event.clientY, frequencyHz, gainDb };
    },
    onPointerMove: (event: PointerEvent) => {
      const drag = dragging.current;
      if (drag?.band !== band) return;
      // Shift makes the hand ten times finer: the way is counted from where the drag began.
      const fine = event.shiftKey ? 0.1 : 1;
      const { width, height } = box.current!.getBoundingClientRect();
      const octaves = (((event.clientX - drag.x) * fine) / (width - LEFT - RIGHT)) * Math.log2(HIGH / LOW);
      const frequencyHz = Math.round(Math.min(HIGH, Math.max(LOW, drag.frequencyHz * 2 ** octaves)));
      // The handle stands on the scaled curve.
      const gain =
        drag.gainDb -
        (((event.clientY - drag.y) * fine) / (height - TOP - BOTTOM)) * 2 * range * (100 / (scalePercent || 100));
      const gainDb = Math.round(Math.max(-18, Math.min(18, gain)) * 10) / 10;
      onChange(band, `Move band ${band + 1}`, hasGain(bands[band]) ? { frequencyHz, gainDb } : { frequencyHz });
    },
    onPointerUp: () => {
      dragging.current = null;
      onCommit();
    },
    onKeyDown: (event: KeyboardEvent) => {
      const { frequencyHz, gainDb, q } = bands[band];
      const fine = event.shiftKey;
      const shift = (direction: number) => ({
        frequencyHz: Math.round(
          Math.min(HIGH, Math.max(LOW, frequencyHz * 2 ** (direction * (fine ? 1 / 48 : 1 / 12)))),
        ),
      });
      const lift = (direction: number) => ({
        gainDb: Math.round(Math.max(-18, Math.min(18, gainDb + direction * (fine ? 0.1 : 0.5))) * 10) / 10,
      });
      const narrow = (direction: number) => ({
        q: Number(Math.min(30, Math.max(0.1, q * 1.1 ** direction)).toFixed(2)),
      });
      const parts: Record<string, () => Partial<EqualizerBand>> = {
        ArrowLeft: () => shift(-1),
        ArrowRight: () => shift(1),
        ArrowUp: () => lift(1),
        ArrowDown: () => lift(-1),
        PageUp: () => narrow(1),
        PageDown: () => narrow(-1),
      };
      if (event.key === 'Delete' || event.key === 'Backspace') onRemove(band);
      else if (parts[event.key]) onChange(band, `Move band ${band + 1}`, parts[event.key]());
      else return;
      event.preventDefault();
      event.stopPropagation();
    },
  });

  return (
    <Box
      ref={box}
      sx={{ position: 'absolute', inset: 0 }}
      onDoubleClick={(event) => event.target instanceof HTMLCanvasElement && onAdd(at(event))}
    >
      <canvas ref={canvas} style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} aria-hidden />
      {bands.map((band, i) => {
        const gain = hasGain(band) ? (band.gainDb * scalePercent) / 100 : -3;
        const value = hasGain(band)
          ? `${figure(band.frequencyHz, 0)} Hz, ${signed(band.gainDb)} dB`
          : `${figure(band.frequencyHz, 0)} Hz, ${band.slopeDbPerOctave} dB/octave`;
        return (
          <Box
            key={i}
            component="button"
            {...handle(i)}
            role="slider"
            aria-label={`Band ${i + 1} (arrow keys move it, page keys change its Q, delete removes it)`}
            aria-valuetext={value}
            aria-valuemin={LOW}
            aria-valuemax={HIGH}
            aria-valuenow={band.frequencyHz}
            onFocus={() => onOpen(i)}
            sx={{
              ...{
                position: 'absolute',
                width: 22,
                height: 22,
                ml: '-11px',
                mt: '-11px',
                p: 0,
                borderRadius: 1.25,
                touchAction: 'none',
                cursor: 'grab',
              },
              ...{
                border: '1.5px solid',
                borderColor: 'text.primary',
                font: `600 11px ${FIGURE_FACE}`,
                opacity: band.on ? 1 : 0.5,
              },
              bgcolor: i === open ? 'text.primary' : 'background.paper',
              color: i === open ? 'background.paper' : 'text.primary',
            }}
            style={{
              left: `calc(${LEFT}px + (100% - ${LEFT + RIGHT}px) * ${fractionOf(band.frequencyHz)})`,
              top: `calc(${TOP}px + (100% - ${TOP + BOTTOM}px) * ${Math.min(1, Math.max(0, heightOf(gain)))})`,
            }}
          >
            {i + 1}
          </Box>
        );
      })}
    </Box>
  );
}
