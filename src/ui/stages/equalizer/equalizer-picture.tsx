'use client';

import Box from '@mui/material/Box';
import { useMemo, useRef } from 'react';
import type { Stage } from '../../../core/lane/schema';
import type { Biquad } from '../../../core/signal/biquad';
import { noteOf } from '../../../core/measure/note';
import { bandSections, sectionsGainDb } from '../../../core/stages/equalizer/design';
import { effectiveBands, moves, type EqualizerBand } from '../../../core/stages/equalizer/settings';
import { change, figure, hertz } from '../../kit/format';
import { Picture } from '../../kit/picture';
import { PointerReadout, type PointerPlace } from '../../kit/pointer-readout';
import type { Draw } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useTrack, useTransport } from '../../track/context';
import { BandHandle } from './band-handle';
import { SweepSurface } from './sweep-surface';
import type { Sweep } from './use-sweep';
import { drawEqualizer, type EqualizerCurves, spectrumLevelAt } from './draw-equalizer';
import { BOTTOM, frequencyAt, frequencyUnder, heldGain, LEFT, RIGHT, TOP } from './equalizer-axes';
import { useSpectrumChoice } from './spectrum-choice';
import { spectrumColumns, type Spectra } from './spectrum-line';

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
  const { layers, referenceId } = useSpectrumChoice();
  const reference = useTrack(({ details }) => details.references.find(({ id }) => id === referenceId));
  const loudness = useMeasurements((state) => state.measurement?.joints.at(index + 1)?.integratedLufs);
  const { settings } = stage;
  const { bands } = settings;
  const sounding = useMemo(() => effectiveBands(settings), [settings]);
  const range = bands.some(({ gainDb, dynamics }) => Math.abs(gainDb + (dynamics?.rangeDb ?? 0)) > 11) ? 20 : 12;
  const box = useRef<HTMLDivElement>(null);

  // The curve of both channels, and one for each part that has bands of its own: at rest, and moved as far as they go.
  const curves = useMemo((): EqualizerCurves => {
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
  const current = (): readonly Biquad[] => {
    const moved = playing ? editor.board.latest?.movements : undefined;
    if (!curves.far || !moved) return curves.rest;
    return sounding
      .filter(({ part }) => part === 'stereo')
      .flatMap((band) => bandSections(movedBy(band, moved[sounding.indexOf(band)] ?? 0), sampleRate));
  };

  /** Frequency and note, what the curve does there, and the level of the spectra's scale. */
  const under = ({ x, y, width, height }: PointerPlace) => {
    const across = (x - LEFT) / (width - LEFT - RIGHT);
    const down = (y - TOP) / (height - TOP - BOTTOM);
    if (across < 0 || across > 1 || down < 0 || down > 1) return null;
    const hz = frequencyAt(across);
    const gain = change(sectionsGainDb(current(), hz, sampleRate));
    return `${hertz(hz)} Hz  ${noteOf(hz)}  curve ${gain} dB  at ${figure(spectrumLevelAt(down), 0)} dBFS`;
  };

  /** The reference as loud as what leaves this stage. */
  const referenceColumns = (columns: number) => {
    const report = reference?.report;
    if (!report || report.integratedLufs === null || loudness === undefined) return null;
    const levels = report.balance.map(({ levelDbfs }) => levelDbfs);
    return {
      title: reference.title,
      levels: spectra.reference(levels, loudness - report.integratedLufs, columns, sampleRate),
    };
  };

  const draw: Draw = (surface) => {
    const columns = spectrumColumns(surface.width);
    if (playing) spectra.update(editor.taps, columns, sampleRate);
    const picture = { range, sampleRate, curves, current: current(), on: stage.on, open: sounding[open] ?? null };
    const heard = {
      live: spectra.live(),
      held: spectra.after.held,
      average: spectra.average(average, columns, sampleRate),
      reference: referenceColumns(columns),
    };
    drawEqualizer(surface, picture, { layers, ...heard }, palette);
  };

  return (
    <Box
      ref={box}
      sx={{ position: 'absolute', inset: 0 }}
      onDoubleClick={({ target, currentTarget, clientX, clientY }) => {
        // Handles have a double-click of their own. The target may be the box itself, if the canvas was replaced between the clicks.
        if ((target as Element).closest('[role="slider"]')) return;
        const { top, height } = currentTarget.getBoundingClientRect();
        const db = range - ((clientY - top - TOP) / (height - TOP - BOTTOM)) * 2 * range;
        onAdd({ frequencyHz: frequencyUnder(currentTarget, clientX), gainDb: heldGain(db) });
      }}
    >
      <Picture moving={playing} draw={draw} />
      <PointerReadout box={box} text={under} />
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
