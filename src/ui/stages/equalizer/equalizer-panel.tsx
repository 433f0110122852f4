'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Tooltip from '@mui/material/Tooltip';
import { useMemo } from 'react';
import { describe, describeChoice } from '../../../core/stages/setting';
import { linearPhaseLatency } from '../../../core/stages/equalizer/linear-phase';
import {
  equalizerBand,
  MAX_BANDS,
  equalizerSettings,
  type EqualizerBand,
  type EqualizerSettings,
} from '../../../core/stages/equalizer/settings';
import { sweepSettings } from '../../../core/stages/equalizer/sweep';
import { ChoiceRow } from '../../kit/choice-row';
import { QuantityControl } from '../../kit/quantity-control';
import { useEditor, useSelection, useTrack } from '../../track/context';
import { BandPanel } from './band-panel';
import { EqualizerPicture } from './equalizer-picture';
import { useSpectrumChoice } from './spectrum-choice';
import { Spectra } from './spectrum-line';
import { SpectrumMenu } from './spectrum-menu';
import { StageFrame } from '../stage-frame';
import type { PanelProps } from '../stage-panel';
import { useControls } from '../use-controls';
import { useSweep, useSweepSettings } from './use-sweep';
import { withKey } from '../../track/key-table';

const PHASE = describeChoice<EqualizerSettings['phase']>(equalizerSettings.shape.phase);

type StageProps = Pick<PanelProps<'equalizer'>, 'stage'>;

/** Where the next band goes: the widest gap between bands, in octaves. */
function freeFrequency(bands: EqualizerBand[]): number {
  const edges = [40, ...bands.map(({ frequencyHz }) => frequencyHz), 14000].sort((a, b) => a - b);
  let best = 0;
  for (let i = 1; i < edges.length - 1; i++) if (edges[i + 1] / edges[i] > edges[best + 1] / edges[best]) best = i;
  return Math.round(Math.sqrt(edges[best] * edges[best + 1]));
}

function Phase({ stage }: StageProps) {
  const editor = useEditor();
  const sampleRate = useTrack((state) => state.details.mix?.source.sampleRate ?? 44100);
  const milliseconds = Math.round((1000 * linearPhaseLatency(sampleRate)) / sampleRate);
  const { phase } = stage.settings;
  return (
    <>
      <ChoiceRow
        choice={PHASE}
        value={phase}
        onChange={(next) => editor.lane.setSetting(stage.id, PHASE.title, 'phase', next)}
      />
      {phase === 'linear' && (
        <Box sx={{ color: 'text.secondary', fontSize: 12 }}>{milliseconds} ms latency, rings before hits</Box>
      )}
    </>
  );
}

function SweepPanel({ onCancel }: { onCancel: () => void }) {
  const settings = useSweepSettings();
  return (
    <>
      <Box sx={{ fontWeight: 650 }}>Sweep</Box>
      <Box sx={{ color: 'text.secondary', mb: 0.5 }}>
        Press in the picture and drag: a narrow boost makes ringing jump out. Let go to leave a cut there.
      </Box>
      {(['boostDb', 'q', 'cutDb'] as const).map((name) => (
        <QuantityControl
          key={name}
          quantity={describe(sweepSettings.shape[name])}
          value={settings[name]}
          onChange={(value) => useSweepSettings.setState({ [name]: value })}
        />
      ))}
      <Box>
        <Button color="inherit" onClick={onCancel}>
          Cancel sweep (Esc)
        </Button>
      </Box>
    </>
  );
}

/** Bands on a curve, and the settings of the open one. */
export function EqualizerPanel({ stage, index }: PanelProps<'equalizer'>) {
  const editor = useEditor();
  const { bands } = stage.settings;
  const { quantity } = useControls(stage);
  const open = Math.min(
    useSelection((state) => state.band),
    bands.length - 1,
  );
  const band: EqualizerBand | undefined = bands[open];
  const sweep = useSweep(stage);
  const { resolution, tiltDb } = useSpectrumChoice();
  // Another resolution or tilt starts new lines.
  const spectra = useMemo(() => new Spectra(resolution, tiltDb), [resolution, tiltDb]);

  const change = (at: number, label: string, part: Partial<EqualizerBand>) =>
    editor.lane.setStage(stage, label, { bands: bands.map((other, i) => (i === at ? { ...other, ...part } : other)) });
  const add = (part: Partial<EqualizerBand>) => {
    if (bands.length >= MAX_BANDS) return;
    editor.lane.setStage(stage, 'Add band', {
      bands: [...bands, equalizerBand.parse({ shape: 'bell', frequencyHz: freeFrequency(bands), ...part })],
    });
    editor.selection.openBand(bands.length);
  };
  const remove = (at: number) => {
    editor.lane.setStage(stage, 'Remove band', { bands: bands.filter((_, i) => i !== at) });
    editor.lane.dropBandPins(stage.id, at);
    editor.selection.openBand(Math.max(0, at - 1));
  };

  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={
        <>
          <Button variant="outlined" disabled={bands.length >= MAX_BANDS} onClick={() => add({})}>
            Add band
          </Button>
          <Tooltip title={withKey('Find ringing: press and drag across the picture, let go to cut there', 'sweep')}>
            <span>
              <Button
                variant={sweep.armed ? 'contained' : 'outlined'}
                aria-pressed={sweep.armed}
                disabled={!sweep.possible}
                onClick={() => (sweep.armed ? sweep.cancel() : sweep.arm(true))}
              >
                Sweep
              </Button>
            </span>
          </Tooltip>
          <SpectrumMenu
            onRelease={() => {
              spectra.before.release();
              spectra.after.release();
            }}
          />
        </>
      }
      picture={
        <EqualizerPicture
          stage={stage}
          index={index}
          open={open}
          spectra={spectra}
          sweep={sweep}
          onOpen={(at) => editor.selection.openBand(at)}
          onChange={change}
          onAdd={add}
          onRemove={remove}
          onCommit={() => void editor.lane.flush()}
        />
      }
    >
      {sweep.armed ? (
        <SweepPanel onCancel={sweep.cancel} />
      ) : band ? (
        <BandPanel
          stage={stage.id}
          band={band}
          index={open}
          onChange={(label, part) => change(open, label, part)}
          onRemove={() => remove(open)}
        />
      ) : (
        <Box sx={{ color: 'text.secondary' }}>
          <p>No bands yet, so this stage does nothing.</p>
          <Button variant="contained" onClick={() => add({})}>
            Add the first band
          </Button>
          <p>Or double-click in the picture where you want it.</p>
        </Box>
      )}
      {bands.length > 0 && !sweep.armed && (
        <Box sx={{ pt: 0.25, borderTop: 1, borderColor: 'divider' }}>
          {(['scalePercent', 'shiftDb'] as const).map((name) => quantity(name))}
          <Phase stage={stage} />
        </Box>
      )}
    </StageFrame>
  );
}
