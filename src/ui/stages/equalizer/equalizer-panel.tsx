'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
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
  type EqualizerState,
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

/** What the stage keeps of a state. */
function stateOf({ bands, scalePercent, shiftDb }: EqualizerState): EqualizerState {
  return { bands, scalePercent, shiftDb };
}

/** The other state takes the place of the one that is heard; the first time it starts as a copy. */
function swapped(settings: EqualizerSettings): Partial<EqualizerSettings> {
  const { other, state } = settings;
  return { ...(other ?? stateOf(settings)), other: stateOf(settings), state: state === 1 ? 2 : 1 };
}

function States({ stage }: StageProps) {
  const editor = useEditor();
  const { state, other } = stage.settings;
  return (
    <>
      <Tooltip title="Two settings of this stage to compare; the second starts as a copy of the first">
        <ToggleButtonGroup
          exclusive
          size="small"
          value={state}
          aria-label="State of the equalizer"
          onChange={(_, next: number | null) =>
            next !== null && editor.lane.setStage(stage, `State ${next}`, swapped(stage.settings))
          }
          sx={{
            '& .MuiToggleButton-root': {
              textTransform: 'none',
              py: 0,
              px: 1,
              color: 'text.primary',
              lineHeight: '24px',
            },
            '& .MuiToggleButton-root.Mui-selected': { bgcolor: 'text.primary', color: 'background.paper' },
          }}
        >
          <ToggleButton value={1}>State 1</ToggleButton>
          <ToggleButton value={2}>2</ToggleButton>
        </ToggleButtonGroup>
      </Tooltip>
      {other && (
        <Tooltip title={`Copies this state to state ${3 - state}`}>
          <Button
            color="inherit"
            onClick={() =>
              editor.lane.setStage(stage, `State ${state} to ${3 - state}`, { other: stateOf(stage.settings) })
            }
          >
            {state} → {3 - state}
          </Button>
        </Tooltip>
      )}
    </>
  );
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
          <States stage={stage} />
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
