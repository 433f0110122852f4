'use client';

import AddIcon from '@mui/icons-material/Add';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import ListItemText from '@mui/material/ListItemText';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Tooltip from '@mui/material/Tooltip';
import { useRef } from 'react';
import { MAX_STAGES } from '../../../core/lane/schema';
import { STAGE_KINDS, STAGES } from '../../../core/stages/registry';
import { figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { useEditor, useLane, useLiveReadings, useMeasurements, useSelection, useTransport } from '../context';
import { withKey } from '../key-table';
import { STALE, useStale } from '../stale';

/** Loudness and true peak between two stages, live while playing. */
export function JointFigures({ index }: { index: number }) {
  const readings = useLiveReadings();
  const playing = useTransport((state) => state.playing);
  const reading = useMeasurements((state) => state.measurement?.joints[index]);
  const live = playing ? readings?.joints[index] : undefined;
  const lufs = live ? live.momentaryLufs : reading?.integratedLufs;
  const peak = live ? live.truePeakDbtp : reading?.truePeakDbtp;
  const stale = useStale() && !live;
  return (
    <Box
      sx={{
        ...{ fontFamily: FIGURE_FACE, textAlign: 'center', lineHeight: 1.25, whiteSpace: 'nowrap' },
        ...(stale && STALE),
      }}
    >
      <Box sx={{ fontSize: 13, fontWeight: 600 }}>{lufs === undefined ? '–' : figure(lufs)}</Box>
      <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{peak === undefined ? '–' : `${figure(peak)} dBTP`}</Box>
    </Box>
  );
}

/** Adds a stage at a joint. */
export function AddStage({ at }: { at: number }) {
  const editor = useEditor();
  const room = useLane((state) => MAX_STAGES - state.version.lane.stages.length);
  const button = useRef<HTMLButtonElement>(null);
  const open = useSelection((state) => state.adding === at);
  const close = () => editor.selection.offerStages(null);
  if (room === 0) return null;
  return (
    <>
      <Tooltip title={withKey('Add a stage here', 'add')}>
        <IconButton
          aria-label={`Add a stage at position ${at + 1}`}
          ref={button}
          aria-haspopup="menu"
          onClick={() => editor.selection.offerStages(at)}
          sx={{
            width: 24,
            height: 24,
            bgcolor: 'background.paper',
            border: 1,
            borderColor: 'divider',
            '&:hover': { bgcolor: 'background.default' },
          }}
        >
          <AddIcon sx={{ fontSize: 14 }} />
        </IconButton>
      </Tooltip>
      <Menu anchorEl={() => button.current} open={open} onClose={close}>
        {STAGE_KINDS.map((kind) => (
          <MenuItem
            key={kind}
            onClick={() => {
              close();
              editor.addStage(kind, at);
            }}
          >
            <ListItemText primary={STAGES[kind].title} secondary={STAGES[kind].summary} />
          </MenuItem>
        ))}
        {room >= 2 && (
          <MenuItem
            onClick={() => {
              close();
              editor.addLimiterPair(at);
            }}
          >
            <ListItemText primary="Two limiters" secondary="One for character, then a safety that hardly works" />
          </MenuItem>
        )}
      </Menu>
    </>
  );
}
