'use client';

import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import HeadphonesIcon from '@mui/icons-material/HeadphonesOutlined';
import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Switch from '@mui/material/Switch';
import ToggleButton from '@mui/material/ToggleButton';
import Tooltip from '@mui/material/Tooltip';
import { describe } from '../../../core/stages/definition';
import {
  bandDynamics,
  canMove,
  equalizerBand,
  hasGain,
  hasQ,
  hasSlope,
  PARTS,
  SHAPES,
  SLOPES,
  type EqualizerBand,
} from '../../../core/stages/equalizer/settings';
import { useSession, useWorkspace } from '../../track/context';
import { StageQuantity } from '../stage-quantity';

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
  height: 26,
  fontSize: 12.5,
  bgcolor: 'background.paper',
  '& .MuiSelect-select': { pl: 1, pr: '24px !important' },
};
const DYNAMICS = ['thresholdDbfs', 'rangeDb', 'attackMs', 'releaseMs'] as const;

/** The settings of the band that is open. */
export function BandPanel({
  stage,
  band,
  index,
  onChange,
  onRemove,
}: {
  stage: string;
  band: EqualizerBand;
  index: number;
  onChange: (label: string, part: Partial<EqualizerBand>) => void;
  onRemove: () => void;
}) {
  const session = useSession();
  const alone = useWorkspace((state) => state.soloRegion);
  const name = `Band ${index + 1}`;
  const { dynamics } = band;
  const control = (setting: 'frequencyHz' | 'gainDb' | 'q') => {
    const quantity = describe(equalizerBand.shape[setting]);
    return (
      <StageQuantity
        stage={stage}
        control={`bands.${index}.${setting}`}
        quantity={quantity}
        value={band[setting]}
        disabled={!band.on}
        onChange={(value) => onChange(`${name} ${quantity.title.toLowerCase()}`, { [setting]: value })}
      />
    );
  };
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75 }}>
        <Box sx={{ fontWeight: 650, flex: 1, whiteSpace: 'nowrap' }}>{name}</Box>
        <Select
          size="small"
          value={band.shape}
          inputProps={{ 'aria-label': 'Shape' }}
          sx={chooser}
          onChange={({ target }) => onChange(`${name} shape`, { shape: target.value })}
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
          onChange={({ target }) => onChange(`${name} part`, { part: target.value })}
        >
          {PARTS.map((part) => (
            <MenuItem key={part} value={part}>
              {PART_TITLES[part]}
            </MenuItem>
          ))}
        </Select>
        <Tooltip title="Hear only the region of this band (R)">
          <span>
            <ToggleButton
              value="alone"
              size="small"
              selected={alone}
              disabled={band.shape === 'tilt'}
              aria-label="Hear only this region"
              onChange={() => session.listening.hearRegion(!alone)}
              sx={{
                ...{ p: '3px', color: 'text.secondary' },
                '&.Mui-selected, &.Mui-selected:hover': { bgcolor: 'warning.main', color: 'background.paper' },
              }}
            >
              <HeadphonesIcon sx={{ fontSize: 17 }} />
            </ToggleButton>
          </span>
        </Tooltip>
        <Tooltip title="Remove this band">
          <IconButton size="small" aria-label="Remove band" onClick={onRemove} sx={{ p: '3px' }}>
            <DeleteIcon sx={{ fontSize: 18 }} />
          </IconButton>
        </Tooltip>
        <Switch
          size="small"
          checked={band.on}
          slotProps={{ input: { 'aria-label': `${name} on` } }}
          onChange={(_, on) => onChange(`${name} ${on ? 'on' : 'off'}`, { on })}
        />
      </Box>
      {control('frequencyHz')}
      {hasGain(band) && control('gainDb')}
      {hasQ(band) && control('q')}
      {hasSlope(band) && (
        <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', minHeight: 31 }}>
          <span>Slope</span>
          <Select
            size="small"
            value={band.slopeDbPerOctave}
            inputProps={{ 'aria-label': 'Slope' }}
            sx={chooser}
            onChange={({ target }) => onChange(`${name} slope`, { slopeDbPerOctave: target.value })}
          >
            {SLOPES.map((slope) => (
              <MenuItem key={slope} value={slope}>
                {slope} dB/octave
              </MenuItem>
            ))}
          </Select>
        </Box>
      )}
      {canMove(band) && (
        <Tooltip
          title="The gain moves with the level of what lies in the band. Good for a cut only where it gets harsh; costs a change of tone with the level."
          placement="left"
        >
          <FormControlLabel
            label="Moves with the level"
            disableTypography
            sx={{ m: 0, fontSize: 13, flexDirection: 'row-reverse', justifyContent: 'space-between' }}
            control={
              <Switch
                size="small"
                checked={dynamics !== null}
                onChange={(_, on) =>
                  onChange(`${name} ${on ? 'moves' : 'stands still'}`, { dynamics: on ? bandDynamics.parse({}) : null })
                }
              />
            }
          />
        </Tooltip>
      )}
      {canMove(band) &&
        dynamics &&
        DYNAMICS.map((setting) => {
          const quantity = describe(bandDynamics.shape[setting]);
          return (
            <StageQuantity
              key={setting}
              stage={stage}
              control={`bands.${index}.dynamics.${setting}`}
              quantity={quantity}
              value={dynamics[setting]}
              disabled={!band.on}
              onChange={(value) =>
                onChange(`${name} ${quantity.title.toLowerCase()}`, { dynamics: { ...dynamics, [setting]: value } })
              }
            />
          );
        })}
    </>
  );
}
