'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Switch from '@mui/material/Switch';
import type { Stage } from '../../../core/lane/schema';
import { describe } from '../../../core/stages/definition';
import {
  equalizerBand,
  equalizerSettings,
  hasGain,
  hasQ,
  hasSlope,
  MAX_BANDS,
  PARTS,
  SHAPES,
  SLOPES,
  type EqualizerBand,
} from '../../../core/stages/equalizer/settings';
import { QuantityControl } from '../../controls/quantity-control';
import { usePalette } from '../../theme/use-palette';
import { useSession, useWorkspace } from '../context';
import { EqualizerPicture } from './equalizer-picture';
import { Key, StageFrame } from './stage-frame';

const SHAPE_TITLES: Record<(typeof SHAPES)[number], string> = {
  bell: 'Bell',
  lowShelf: 'Low shelf',
  highShelf: 'High shelf',
  tilt: 'Tilt',
  highPass: 'High-pass',
  lowPass: 'Low-pass',
  bandPass: 'Band-pass',
  notch: 'Notch',
};

const PART_TITLES: Record<(typeof PARTS)[number], string> = {
  stereo: 'Stereo',
  mid: 'Mid',
  side: 'Side',
  left: 'Left',
  right: 'Right',
};

const chooser = {
  height: 28,
  fontSize: 12.5,
  bgcolor: 'background.paper',
  '& .MuiSelect-select': { pl: 1, pr: '24px !important' },
};

/** Where the next band is put: the widest gap between bands, in octaves. */
function freeFrequency(bands: EqualizerBand[]): number {
  const edges = [40, ...bands.map(({ frequencyHz }) => frequencyHz), 14000].sort((a, b) => a - b);
  let best = 0;
  for (let i = 1; i < edges.length - 1; i++) if (edges[i + 1] / edges[i] > edges[best + 1] / edges[best]) best = i;
  return Math.round(Math.sqrt(edges[best] * edges[best + 1]));
}

/** Bands on a curve, and the settings of the one that is open. */
export function EqualizerStage({ stage, index }: { stage: Extract<Stage, { kind: 'equalizer' }>; index: number }) {
  const session = useSession();
  const palette = usePalette();
  const { bands } = stage.settings;
  const open = Math.min(
    useWorkspace((state) => state.openBand),
    bands.length - 1,
  );
  const band: EqualizerBand | undefined = bands[open];
  const flush = () => void session.flush();

  const change = (at: number, label: string, part: Partial<EqualizerBand>) =>
    session.setStage(stage, label, { bands: bands.map((other, i) => (i === at ? { ...other, ...part } : other)) });
  const add = (part: Partial<EqualizerBand>) => {
    session.setStage(stage, 'Add band', {
      bands: [...bands, equalizerBand.parse({ shape: 'bell', frequencyHz: freeFrequency(bands), ...part })],
    });
    session.openBand(bands.length);
  };
  const remove = (at: number) => {
    session.setStage(stage, 'Remove band', { bands: bands.filter((_, i) => i !== at) });
    session.openBand(Math.max(0, at - 1));
  };
  const control = (name: 'frequencyHz' | 'gainDb' | 'q') => {
    const quantity = describe(equalizerBand.shape[name]);
    return (
      <QuantityControl
        quantity={quantity}
        value={band[name]}
        disabled={!band.on}
        onChange={(value) => change(open, `Band ${open + 1} ${quantity.title.toLowerCase()}`, { [name]: value })}
        onCommit={flush}
      />
    );
  };

  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={
        <>
          <Key color={palette.copper}>spectrum in</Key>
          <Key color={palette.patina}>spectrum out</Key>
          <Button variant="outlined" disabled={bands.length >= MAX_BANDS} onClick={() => add({})}>
            Add band
          </Button>
        </>
      }
      picture={
        <EqualizerPicture
          stage={stage}
          open={open}
          onOpen={(at) => session.openBand(at)}
          onChange={change}
          onAdd={add}
          onRemove={remove}
          onCommit={flush}
        />
      }
    >
      {band ? (
        <>
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mb: 0.5 }}>
            <Box sx={{ fontWeight: 650, flex: 1, whiteSpace: 'nowrap' }}>Band {open + 1}</Box>
            <Select
              size="small"
              value={band.shape}
              inputProps={{ 'aria-label': 'Shape' }}
              sx={chooser}
              onChange={({ target }) => change(open, `Band ${open + 1} shape`, { shape: target.value })}
            >
              {SHAPES.map((shape) => (
                <MenuItem key={shape} value={shape}>
                  {SHAPE_TITLES[shape]}
                </MenuItem>
              ))}
            </Select>
            <Select
              size="small"
              value={band.part}
              inputProps={{ 'aria-label': 'Works on' }}
              sx={chooser}
              onChange={({ target }) => change(open, `Band ${open + 1} part`, { part: target.value })}
            >
              {PARTS.map((part) => (
                <MenuItem key={part} value={part}>
                  {PART_TITLES[part]}
                </MenuItem>
              ))}
            </Select>
            <Switch
              size="small"
              checked={band.on}
              slotProps={{ input: { 'aria-label': `Band ${open + 1} on` } }}
              onChange={(_, on) => change(open, `Band ${open + 1} ${on ? 'on' : 'off'}`, { on })}
            />
          </Box>
          {control('frequencyHz')}
          {hasGain(band) && control('gainDb')}
          {hasQ(band) && control('q')}
          {hasSlope(band) && (
            <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', py: 0.5 }}>
              <span>Slope</span>
              <Select
                size="small"
                value={band.slopeDbPerOctave}
                inputProps={{ 'aria-label': 'Slope' }}
                sx={chooser}
                onChange={({ target }) => change(open, `Band ${open + 1} slope`, { slopeDbPerOctave: target.value })}
              >
                {SLOPES.map((slope) => (
                  <MenuItem key={slope} value={slope}>
                    {slope} dB/octave
                  </MenuItem>
                ))}
              </Select>
            </Box>
          )}
          <Box>
            <Button color="inherit" onClick={() => remove(open)}>
              Remove band
            </Button>
          </Box>
          <Box sx={{ pt: 1, borderTop: 1, borderColor: 'divider' }}>
            <QuantityControl
              quantity={describe(equalizerSettings.shape.scalePercent)}
              value={stage.settings.scalePercent}
              onChange={(scalePercent) => session.setStage(stage, 'All gains', { scalePercent })}
              onCommit={flush}
            />
          </Box>
        </>
      ) : (
        <Box sx={{ color: 'text.secondary' }}>
          <p>No bands yet: the stage does nothing.</p>
          <Button variant="contained" onClick={() => add({})}>
            Add the first band
          </Button>
          <p>Or double-click in the picture where you want one.</p>
        </Box>
      )}
    </StageFrame>
  );
}
