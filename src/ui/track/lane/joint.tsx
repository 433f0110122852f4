'use client';

import AddIcon from '@mui/icons-material/Add';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import ListItemText from '@mui/material/ListItemText';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Tooltip from '@mui/material/Tooltip';
import { useState } from 'react';
import { MAX_STAGES } from '../../../core/lane/schema';
import { STAGE_KINDS, STAGES } from '../../../core/stages/registry';
import { figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { useLiveReadings, useSession, useWorkspace } from '../context';

/** Loudness and true peak between two stages, live while playing. */
export function JointFigures({ index }: { index: number }) {
  const readings = useLiveReadings();
  const playing = useWorkspace((state) => state.playing);
  const reading = useWorkspace((state) => state.pass?.joints[index]);
  const live = playing ? readings?.joints[index] : undefined;
  const lufs = live ? live.momentaryLufs : reading?.integratedLufs;
  const peak = live ? 20 * Math.log10(Math.max(1e-6, live.truePeak)) : reading?.truePeakDbtp;
  return (
    <Box sx={{ fontFamily: FIGURE_FACE, textAlign: 'center', lineHeight: 1.25, whiteSpace: 'nowrap' }}>
      <Box sx={{ fontSize: 13, fontWeight: 600 }}>{lufs === undefined ? '–' : figure(lufs)}</Box>
      <Box sx={{ fontSize: 10.5, color: 'text.secondary' }}>{peak === undefined ? '–' : `${figure(peak)} dBTP`}</Box>
    </Box>
  );
}

/** Puts a new stage in at a joint. */
export function AddStage({ at }: { at: number }) {
  const session = useSession();
  const room = useWorkspace((state) => MAX_STAGES - state.version.lane.stages.length);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  if (room === 0) return null;
  return (
    <>
      <Tooltip title="Add a stage here">
        <IconButton
          aria-label={`Add a stage at place ${at + 1}`}
          onClick={(event) => setAnchor(event.currentTarget)}
          sx={{
            width: 20,
            height: 20,
            bgcolor: 'background.paper',
            border: 1,
            borderColor: 'divider',
            '&:hover': { bgcolor: 'background.default' },
          }}
        >
          <AddIcon sx={{ fontSize: 14 }} />
        </IconButton>
      </Tooltip>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {STAGE_KINDS.map((kind) => (
          <MenuItem
            key={kind}
            onClick={() => {
              setAnchor(null);
              session.addStage(kind, at);
            }}
          >
            <ListItemText primary={STAGES[kind].title} secondary={STAGES[kind].summary} />
          </MenuItem>
        ))}
        {room >= 2 && (
          <MenuItem
            onClick={() => {
              setAnchor(null);
              session.addLimiterPair(at);
            }}
          >
            <ListItemText primary="Two limiters" secondary="One for character, then a safety that hardly moves" />
          </MenuItem>
        )}
      </Menu>
    </>
  );
}
