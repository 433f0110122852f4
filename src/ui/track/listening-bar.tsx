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
import { MONITORS } from '../../engine/live/protocol';
import { MATCHINGS, type Matching } from '../../engine/sources/level-match';
import { clock, figure } from '../kit/format';
import { FIGURE_FACE } from '../theme/theme';
import { useAudition, useEditor, useLiveReadings, useMixLength, useTrack, useTransport } from './context';
import type { AuditionState, Heard } from './audition';
import { useLayout } from './layout';
import { MONITOR_TITLES } from './monitors';
import { OutputMeter } from './output-meter';
import { VolumeButton } from './volume-button';
import { withKey } from './key-table';

const HEARD: { value: Heard; title: string; color: string; help: string }[] = [
  {
    value: 'compared',
    title: 'Mix',
    color: 'secondary.main',
    help: withKey('What the master is compared with: the untouched mix, or the lane without one stage', 'mix'),
  },
  { value: 'master', title: 'Master', color: 'primary.main', help: withKey('The mix through the whole lane', 'mix') },
  {
    value: 'difference',
    title: 'Change',
    color: 'text.primary',
    help: withKey('Only what the lane changes: the master minus the mix, level-matched', 'change'),
  },
];

const MATCHING_TITLES: Record<Matching, string> = {
  loudness: 'Match loudness',
  truePeak: 'Match true peak',
  none: 'Not matched',
};

/** What level matching does to the two, in words. */
export function matchWords({ compared, master }: AuditionState['gainsDb'], other: string): string {
  const words = (what: string, db: number) => `${what} ${db > 0 ? 'raised' : 'lowered'} ${figure(Math.abs(db))} dB`;
  if (Math.abs(compared) >= 0.05) return words(other, compared);
  return Math.abs(master) >= 0.05 ? words('master', master) : 'both as they are';
}

/** How the two are matched, and the gain that this takes. */
function LevelMatching() {
  const editor = useEditor();
  const matching = useAudition((state) => state.matching);
  const gainsDb = useAudition((state) => state.gainsDb);
  const estimated = useAudition((state) => state.estimated);
  const without = useAudition((state) => state.without !== null);
  const rendering = useAudition((state) => state.rendering);
  return (
    <Box sx={{ width: 142, flexShrink: 0, lineHeight: 1.3 }}>
      <Select
        variant="standard"
        disableUnderline
        value={matching}
        inputProps={{ 'aria-label': 'Level matching' }}
        onChange={({ target }) => editor.audition.setMatching(target.value)}
        sx={{ fontSize: 12.5, '& .MuiSelect-select': { py: 0 } }}
      >
        {MATCHINGS.map((each) => (
          <MenuItem key={each} value={each}>
            {MATCHING_TITLES[each]}
          </MenuItem>
        ))}
      </Select>
      <Box sx={{ color: 'text.secondary', fontSize: 12 }} data-testid="level-match">
        {rendering !== null
          ? `rendering ${Math.round(rendering * 100)} %`
          : matchWords(gainsDb, without ? 'without' : 'mix')}
        {rendering === null && estimated && matching !== 'none' ? ' (est.)' : ''}
      </Box>
    </Box>
  );
}

function Position({ short }: { short: boolean }) {
  const { board } = useEditor();
  const { frames, sampleRate } = useMixLength();
  useLiveReadings();
  return (
    <Box component="span" sx={{ fontFamily: FIGURE_FACE, whiteSpace: 'nowrap' }}>
      <Box component="span" data-testid="position" sx={{ fontSize: 19 }}>
        {clock((board.latest?.frame ?? 0) / sampleRate, 1)}
      </Box>
      {!short && (
        <Box component="span" sx={{ color: 'text.secondary', fontSize: 13 }}>
          {' / '}
          {clock(frames / sampleRate, 1)}
        </Box>
      )}
    </Box>
  );
}

/** Play, loop, mix against master at matched level, what to listen to, and the output meter. */
export function ListeningBar() {
  const editor = useEditor();
  const ready = useTrack((state) => state.audio !== null);
  const arrived = useTrack((state) => state.arrived);
  const playing = useTransport((state) => state.playing);
  const heard = useAudition((state) => state.heard);
  const monitor = useAudition((state) => state.monitor);
  const loop = useTransport((state) => state.loop);
  const without = useAudition((state) => state.without !== null);
  const narrow = useLayout() === 'narrow';
  return (
    <Box
      role="toolbar"
      aria-label="Listening"
      sx={{
        display: 'flex',
        alignItems: 'center',
        flexWrap: { xs: 'wrap', sm: 'nowrap' },
        gap: { xs: 1, lg: 1.5 },
        px: { xs: 1.5, sm: 2 },
        py: { xs: 1, sm: 0 },
        minHeight: 62,
        borderBottom: 1,
        borderColor: 'divider',
        bgcolor: 'lane.sunken',
      }}
    >
      <Tooltip title={withKey(playing ? 'Pause' : 'Play', 'play')}>
        <span>
          <IconButton
            aria-label={playing ? 'Pause' : 'Play'}
            disabled={!ready}
            onClick={() => editor.transport.togglePlay()}
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
        title={withKey(
          loop ? 'Turn off the loop' : 'Drag across the programme to set a loop, or press to loop the loudest passage',
          'loop',
        )}
      >
        <Button
          variant="outlined"
          disabled={!ready}
          aria-pressed={loop !== null}
          onClick={() => editor.toggleLoop()}
          sx={loop ? { bgcolor: 'text.primary', color: 'background.default' } : undefined}
        >
          Loop
        </Button>
      </Tooltip>
      <Tooltip title={withKey('The 10 s with the highest short-term loudness: the hardest passage', 'loudest')}>
        <Button
          variant="outlined"
          disabled={!ready}
          aria-label="Loudest passage"
          onClick={() => editor.toLoudest()}
          sx={{ flexShrink: 0 }}
        >
          {narrow ? 'Loudest' : 'Loudest passage'}
        </Button>
      </Tooltip>
      {ready ? <Position short={narrow} /> : <Box role="status">Loading the mix, {Math.round(arrived * 100)} %</Box>}
      <ToggleButtonGroup
        exclusive
        size="small"
        value={heard}
        aria-label="What is heard"
        onChange={(_, value: Heard | null) => value && editor.audition.listen(value)}
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
        {HEARD.map(({ value, title, color, help }) => (
          <Tooltip key={value} title={help}>
            <ToggleButton
              value={value}
              sx={{
                minWidth: value === 'compared' ? 78 : undefined,
                '&.Mui-selected, &.Mui-selected:hover': { bgcolor: color, color: 'background.paper' },
              }}
            >
              {value === 'compared' && without ? 'Without' : title}
            </ToggleButton>
          </Tooltip>
        ))}
      </ToggleButtonGroup>
      <LevelMatching />
      <Select
        size="small"
        value={monitor}
        inputProps={{ 'aria-label': 'Listen to' }}
        onChange={({ target }) => editor.audition.setMonitor(target.value)}
        sx={{
          ...{ height: 30, fontSize: 13, width: 92, bgcolor: 'background.paper' },
          // Nothing is worse than mastering in mono by mistake.
          ...(monitor !== 'stereo' && {
            ...{ bgcolor: 'warning.main', color: 'background.paper', fontWeight: 650 },
            '& .MuiSelect-icon': { color: 'inherit' },
          }),
        }}
      >
        {MONITORS.map((value) => (
          <MenuItem key={value} value={value}>
            {MONITOR_TITLES[value]}
          </MenuItem>
        ))}
      </Select>
      <VolumeButton />
      <OutputMeter />
    </Box>
  );
}
