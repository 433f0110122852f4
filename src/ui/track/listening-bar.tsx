'use client';

import PauseIcon from '@mui/icons-material/Pause';
import PlayIcon from '@mui/icons-material/PlayArrow';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Tooltip from '@mui/material/Tooltip';
import type { LevelMatch } from '../../engine/sources/level-match';
import { MONITORS, type Monitor, type Side } from '../../engine/live/protocol';
import { clock, figure } from '../kit/format';
import { FIGURE_FACE } from '../theme/theme';
import { useLiveReadings, useSession, useWorkspace } from './context';
import { OutputMeter } from './output-meter';

const MONITOR_TITLES: Record<Monitor, string> = {
  stereo: 'Stereo',
  mono: 'Mono',
  side: 'Side',
  left: 'Left',
  right: 'Right',
};

const SIDES: { value: Side; title: string; color: string; help: string }[] = [
  {
    value: 'mix',
    title: 'Mix',
    color: 'secondary.main',
    help: 'What the master is compared with: the mix as it came, or the lane without one stage (X)',
  },
  { value: 'master', title: 'Master', color: 'primary.main', help: 'The mix through the whole lane (X)' },
  {
    value: 'change',
    title: 'Change',
    color: 'text.primary',
    help: 'Only what the lane changes: the one less the other, at equal loudness (C)',
  },
];

function matchWords({ mixDb, masterDb }: LevelMatch, other: string): string {
  const say = (what: string, db: number) => `${what} ${db > 0 ? 'raised' : 'lowered'} ${figure(Math.abs(db))} dB`;
  if (Math.abs(mixDb) >= 0.05) return say(other, mixDb);
  if (Math.abs(masterDb) >= 0.05) return say('master', masterDb);
  return 'both as they are';
}

function Position() {
  const { board } = useSession();
  const audio = useWorkspace((state) => state.audio);
  useLiveReadings();
  const rate = audio?.sampleRate ?? 1;
  return (
    <Box component="span" sx={{ fontFamily: FIGURE_FACE, whiteSpace: 'nowrap' }}>
      <Box component="span" data-testid="position" sx={{ fontSize: 19 }}>
        {clock((board.latest?.frame ?? 0) / rate, 1)}
      </Box>
      <Box component="span" sx={{ color: 'text.secondary', fontSize: 13 }}>
        {' / '}
        {clock((audio?.left.length ?? 0) / rate, 1)}
      </Box>
    </Box>
  );
}

/** Play, loop, mix against master at equal loudness, what to listen to, and the output meter. */
export function ListeningBar() {
  const session = useSession();
  const ready = useWorkspace((state) => state.audio !== null);
  const arrived = useWorkspace((state) => state.arrived);
  const playing = useWorkspace((state) => state.playing);
  const side = useWorkspace((state) => state.side);
  const monitor = useWorkspace((state) => state.monitor);
  const loop = useWorkspace((state) => state.loop);
  const match = useWorkspace((state) => state.match);
  const estimated = useWorkspace((state) => state.matchEstimated);
  const without = useWorkspace((state) => state.against !== null);
  return (
    <Box
      role="toolbar"
      aria-label="Listening"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1.5,
        px: 2,
        height: 62,
        borderBottom: 1,
        borderColor: 'divider',
        bgcolor: 'lane.sunken',
      }}
    >
      <Tooltip title={playing ? 'Pause (space)' : 'Play (space)'}>
        <span>
          <IconButton
            aria-label={playing ? 'Pause' : 'Play'}
            disabled={!ready}
            onClick={() => session.listening.togglePlay()}
            sx={{
              width: 38,
              height: 38,
              bgcolor: 'text.primary',
              color: 'background.default',
              '&:hover': { bgcolor: 'text.secondary' },
            }}
          >
            {playing ? <PauseIcon /> : <PlayIcon />}
          </IconButton>
        </span>
      </Tooltip>
      <Tooltip
        title={
          loop
            ? 'Play on beyond the loop (L)'
            : 'Drag across the programme to choose a loop, or press to loop the loudest passage (L)'
        }
      >
        <Button
          variant="outlined"
          disabled={!ready}
          aria-pressed={loop !== null}
          onClick={() => toggleLoop(session)}
          sx={loop ? { bgcolor: 'text.primary', color: 'background.default' } : undefined}
        >
          Loop
        </Button>
      </Tooltip>
      <Tooltip title="The 10 s with the highest short-term loudness: everything is worst there (P)">
        <Button
          variant="outlined"
          disabled={!ready}
          onClick={() => session.listening.toLoudest()}
          sx={{ flexShrink: 0 }}
        >
          Loudest passage
        </Button>
      </Tooltip>
      {ready ? <Position /> : <Box role="status">Fetching the mix, {Math.round(arrived * 100)} %</Box>}
      <ToggleButtonGroup
        exclusive
        size="small"
        value={side}
        aria-label="What is heard"
        onChange={(_, value: Side | null) => value && session.listening.listen(value)}
        sx={{
          bgcolor: 'background.paper',
          '& .MuiToggleButton-root': {
            textTransform: 'none',
            py: 0.25,
            px: 1.5,
            fontWeight: 650,
            color: 'text.primary',
          },
        }}
      >
        {SIDES.map(({ value, title, color, help }) => (
          <Tooltip key={value} title={help}>
            <ToggleButton
              value={value}
              sx={{ '&.Mui-selected, &.Mui-selected:hover': { bgcolor: color, color: 'background.paper' } }}
            >
              {value === 'mix' && without ? 'Without' : title}
            </ToggleButton>
          </Tooltip>
        ))}
      </ToggleButtonGroup>
      <Box
        sx={{ color: 'text.secondary', fontSize: 12, lineHeight: 1.3, width: 136, flexShrink: 0 }}
        data-testid="level-match"
      >
        {estimated ? 'equal loudness, estimated' : 'at equal loudness'}
        <br />
        {matchWords(match, without ? 'without' : 'mix')}
      </Box>
      <Select
        size="small"
        value={monitor}
        inputProps={{ 'aria-label': 'Listen to' }}
        onChange={({ target }) => session.listening.setMonitor(target.value)}
        sx={{ height: 30, fontSize: 13, bgcolor: 'background.paper', width: 92 }}
      >
        {MONITORS.map((value) => (
          <MenuItem key={value} value={value}>
            {MONITOR_TITLES[value]}
          </MenuItem>
        ))}
      </Select>
      <Box sx={{ flex: 1 }} />
      <OutputMeter />
    </Box>
  );
}

/** Ends the loop, or loops the loudest passage. */
export function toggleLoop(session: ReturnType<typeof useSession>): void {
  const { loop, workspace } = session.store.getState();
  const loudest = workspace.mix?.report?.loudest;
  if (loop) session.listening.setLoop(null);
  else if (loudest) session.listening.setLoop(loudest);
}
