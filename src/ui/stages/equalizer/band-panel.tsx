'use client';

import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import HeadphonesIcon from '@mui/icons-material/HeadphonesOutlined';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Switch from '@mui/material/Switch';
import ToggleButton from '@mui/material/ToggleButton';
import Tooltip from '@mui/material/Tooltip';
import { describe, describeChoice } from '../../../core/stages/setting';
import {
  bandDynamics,
  canMove,
  equalizerBand,
  hasGain,
  hasQ,
  hasSlope,
  type EqualizerBand,
} from '../../../core/stages/equalizer/settings';
import { ChoiceRow } from '../../kit/choice-row';
import { SwitchRow } from '../../kit/switch-row';
import { useAudition, useEditor } from '../../track/context';
import { StageQuantity } from '../stage-quantity';
import { withKey } from '../../track/key-table';

const SHAPES = describeChoice<EqualizerBand['shape']>(equalizerBand.shape.shape).options;
const PARTS = describeChoice<EqualizerBand['part']>(equalizerBand.shape.part).options;
const SLOPE = describeChoice<EqualizerBand['slopeDbPerOctave']>(equalizerBand.shape.slopeDbPerOctave);

const chooser = {
  height: 26,
  fontSize: 12.5,
  bgcolor: 'background.paper',
  '& .MuiSelect-select': { pl: 1, pr: '24px !important' },
};
const DYNAMICS = ['thresholdDbfs', 'rangeDb', 'attackMs', 'releaseMs'] as const;

/** The settings of the open band. */
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
  const editor = useEditor();
  const alone = useAudition((state) => state.soloRegion);
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
          {SHAPES.map(({ value, title }) => (
            <MenuItem key={value} value={value}>
              {title}
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
          {PARTS.map(({ value, title }) => (
            <MenuItem key={value} value={value}>
              {title}
            </MenuItem>
          ))}
        </Select>
        <Tooltip title={withKey('Solo this band', 'solo')}>
          <span>
            <ToggleButton
              value="alone"
              size="small"
              selected={alone}
              disabled={band.shape === 'tilt'}
              aria-label="Solo this band"
              onChange={() => editor.audition.hearRegion(!alone)}
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
        <ChoiceRow
          choice={SLOPE}
          value={band.slopeDbPerOctave}
          onChange={(slopeDbPerOctave) => onChange(`${name} slope`, { slopeDbPerOctave })}
        />
      )}
      {canMove(band) && (
        <SwitchRow
          title="Follow the level"
          help="The gain moves with the level of what is in the band. Good for a cut only where it gets harsh; the tone then changes with the level."
          on={dynamics !== null}
          onChange={(on) =>
            onChange(`${name} ${on ? 'follows the level' : 'stays still'}`, {
              dynamics: on ? bandDynamics.parse({}) : null,
            })
          }
        />
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
