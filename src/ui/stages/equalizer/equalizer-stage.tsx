'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Tooltip from '@mui/material/Tooltip';
import { useMemo } from 'react';
import type { Stage } from '../../../core/lane/schema';
import { describe } from '../../../core/stages/definition';
import { linearPhaseLatency } from '../../../core/stages/equalizer/linear-phase';
import {
  equalizerBand,
  equalizerState,
  MAX_BANDS,
  PHASES,
  type EqualizerBand,
  type EqualizerSettings,
} from '../../../core/stages/equalizer/settings';
import { sweepSettings } from '../../../core/stages/equalizer/sweep';
import { QuantityControl } from '../../kit/quantity-control';
import { useSession, useWorkspace } from '../../track/context';
import { BandPanel } from './band-panel';
import { EqualizerPicture, type Spectra } from './equalizer-picture';
import { useSpectrumChoice } from './spectrum-choice';
import { SpectrumLine } from './spectrum-line';
import { SpectrumMenu } from './spectrum-menu';
import { StageFrame } from '../stage-frame';
import { StageQuantity } from '../stage-quantity';
import { useSweep, useSweepSettings } from './use-sweep';

type EqualizerStageData = Extract<Stage, { kind: 'equalizer' }>;

const PHASE_TITLES: Record<(typeof PHASES)[number], string> = { minimum: 'Minimum', linear: 'Linear' };

/** Where the next band is put: the widest gap between bands, in octaves. */
function freeFrequency(bands: EqualizerBand[]): number {
  const edges = [40, ...bands.map(({ frequencyHz }) => frequencyHz), 14000].sort((a, b) => a - b);
  let best = 0;
  for (let i = 1; i < edges.length - 1; i++) if (edges[i + 1] / edges[i] > edges[best + 1] / edges[best]) best = i;
  return Math.round(Math.sqrt(edges[best] * edges[best + 1]));
}

/** The other state takes the place of the one that is heard; the first time it begins as a copy. */
function swapped({ bands, scalePercent, other, state }: EqualizerSettings): Partial<EqualizerSettings> {
  const next = other ?? { bands, scalePercent };
  return { ...next, other: { bands, scalePercent }, state: state === 1 ? 2 : 1 };
}

function States({ stage }: { stage: EqualizerStageData }) {
  const session = useSession();
  const { state, other, bands, scalePercent } = stage.settings;
  return (
    <>
      <Tooltip title="Two settings of this stage to compare; the second begins as a copy of the first">
        <ToggleButtonGroup
          exclusive
          size="small"
          value={state}
          aria-label="State of the equalizer"
          onChange={(_, next: number | null) =>
            next !== null && session.setStage(stage, `State ${next}`, swapped(stage.settings))
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
        <Tooltip title={`State ${3 - state} becomes the same as this one`}>
          <Button
            color="inherit"
            onClick={() =>
              session.setStage(stage, `State ${state} to ${3 - state}`, { other: { bands, scalePercent } })
            }
          >
            {state} → {3 - state}
          </Button>
        </Tooltip>
      )}
    </>
  );
}

function Phase({ stage }: { stage: EqualizerStageData }) {
  const session = useSession();
  const sampleRate = useWorkspace((state) => state.workspace.mix?.source.sampleRate ?? 44100);
  const milliseconds = Math.round((1000 * linearPhaseLatency(sampleRate)) / sampleRate);
  const { phase } = stage.settings;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', minHeight: 31 }}>
      <Tooltip
        title={`Minimum phase is right for nearly everything. Linear phase keeps the timing of all frequencies together: good for bands on mid or side alone and for mixing with the untouched sound; costs ${milliseconds} ms of latency and a faint ring ahead of every hit, most with steep and narrow bands in the bass. The deepest of those also come out softer than drawn: by up to 0.65 dB at 40 Hz and Q 8.`}
        placement="left"
      >
        <span>Phase</span>
      </Tooltip>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        {phase === 'linear' && (
          <Box component="span" sx={{ color: 'text.secondary', fontSize: 12 }}>
            {milliseconds} ms, rings ahead of hits
          </Box>
        )}
        <Select
          size="small"
          value={phase}
          inputProps={{ 'aria-label': 'Phase' }}
          sx={{ height: 26, fontSize: 12.5, bgcolor: 'background.paper' }}
          onChange={({ target }) =>
            session.setStage(stage, `${PHASE_TITLES[target.value]} phase`, { phase: target.value })
          }
        >
          {PHASES.map((each) => (
            <MenuItem key={each} value={each}>
              {PHASE_TITLES[each]}
            </MenuItem>
          ))}
        </Select>
      </Box>
    </Box>
  );
}

function SweepPanel({ onCancel }: { onCancel: () => void }) {
  const settings = useSweepSettings();
  return (
    <>
      <Box sx={{ fontWeight: 650 }}>Sweep</Box>
      <Box sx={{ color: 'text.secondary', mb: 0.5 }}>
        Press in the picture and move: a narrow boost makes what rings jump out. Let go, and a cut stays there.
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
          Leave the sweep (Esc)
        </Button>
      </Box>
    </>
  );
}

/** Bands on a curve, and the settings of the one that is open. */
export function EqualizerStage({ stage, index }: { stage: EqualizerStageData; index: number }) {
  const session = useSession();
  const { bands, scalePercent } = stage.settings;
  const open = Math.min(
    useWorkspace((state) => state.openBand),
    bands.length - 1,
  );
  const band: EqualizerBand | undefined = bands[open];
  const sweep = useSweep(stage);
  const { resolution, tiltDb } = useSpectrumChoice();
  // Another fineness or tilt begins new lines.
  const spectra = useMemo<Spectra>(
    () => ({ before: new SpectrumLine(resolution, tiltDb), after: new SpectrumLine(resolution, tiltDb) }),
    [resolution, tiltDb],
  );

  const change = (at: number, label: string, part: Partial<EqualizerBand>) =>
    session.setStage(stage, label, { bands: bands.map((other, i) => (i === at ? { ...other, ...part } : other)) });
  const add = (part: Partial<EqualizerBand>) => {
    if (bands.length >= MAX_BANDS) return;
    session.setStage(stage, 'Add band', {
      bands: [...bands, equalizerBand.parse({ shape: 'bell', frequencyHz: freeFrequency(bands), ...part })],
    });
    session.openBand(bands.length);
  };
  const remove = (at: number) => {
    session.setStage(stage, 'Remove band', { bands: bands.filter((_, i) => i !== at) });
    session.dropBandPins(stage.id, at);
    session.openBand(Math.max(0, at - 1));
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
          <Tooltip title="Hunt for what rings: press and move along the picture, let go to cut there (S)">
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
          onOpen={(at) => session.openBand(at)}
          onChange={change}
          onAdd={add}
          onRemove={remove}
          onCommit={() => void session.flush()}
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
          <p>No bands yet: the stage does nothing.</p>
          <Button variant="contained" onClick={() => add({})}>
            Add the first band
          </Button>
          <p>Or double-click in the picture where you want one.</p>
        </Box>
      )}
      {bands.length > 0 && !sweep.armed && (
        <Box sx={{ pt: 0.25, borderTop: 1, borderColor: 'divider' }}>
          <StageQuantity
            stage={stage.id}
            control="scalePercent"
            quantity={describe(equalizerState.shape.scalePercent)}
            value={scalePercent}
            onChange={(value) => session.setStage(stage, 'All gains', { scalePercent: value })}
          />
          <Phase stage={stage} />
        </Box>
      )}
    </StageFrame>
  );
}
