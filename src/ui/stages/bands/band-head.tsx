'use client';

import HeadphonesIcon from '@mui/icons-material/HeadphonesOutlined';
import Box from '@mui/material/Box';
import Switch from '@mui/material/Switch';
import ToggleButton from '@mui/material/ToggleButton';
import Tooltip from '@mui/material/Tooltip';
import { bandEdges } from '../../../core/stages/bands/crossovers';
import { hertz } from '../../kit/format';
import { useAudition, useEditor, useLane } from '../../track/context';
import { withKey } from '../../track/key-table';

/** Where a band of the lane lies, in words. */
function bandWords([from, to]: [from: number, to: number]): string {
  if (from === 0) return `below ${hertz(to)} Hz`;
  return to === Infinity ? `above ${hertz(from)} Hz` : `${hertz(from)} to ${hertz(to)} Hz`;
}

/** The open band of the lane: where it lies, hearing it alone, and whether it works. */
export function BandHead({ band, on, onSwitch }: { band: number; on?: boolean; onSwitch?: (on: boolean) => void }) {
  const editor = useEditor();
  const crossovers = useLane((state) => state.version.lane.crossovers);
  const alone = useAudition((state) => state.soloRegion);
  const name = `Band ${band + 1}`;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, minHeight: 30 }}>
      <Box sx={{ flex: 1, whiteSpace: 'nowrap', overflow: 'hidden', textOverflow: 'ellipsis' }}>
        <b>{name}</b>{' '}
        <Box component="span" sx={{ color: 'text.secondary', fontSize: 12 }}>
          {bandWords(bandEdges(crossovers, band))}
        </Box>
      </Box>
      <Tooltip title={withKey('Solo this band', 'solo')}>
        <ToggleButton
          value="alone"
          size="small"
          selected={alone}
          aria-label="Solo this band"
          onChange={() => editor.audition.hearRegion(!alone)}
          sx={{
            ...{ p: '3px', color: 'text.secondary' },
            '&.Mui-selected, &.Mui-selected:hover': { bgcolor: 'warning.main', color: 'background.paper' },
          }}
        >
          <HeadphonesIcon sx={{ fontSize: 17 }} />
        </ToggleButton>
      </Tooltip>
      {onSwitch && (
        <Switch
          size="small"
          checked={on}
          slotProps={{ input: { 'aria-label': `${name} on` } }}
          onChange={(_, next) => onSwitch(next)}
        />
      )}
    </Box>
  );
}
