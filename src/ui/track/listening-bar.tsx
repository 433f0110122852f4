'use client';

import PauseIcon from '@mui/icons-material/Pause';
import PlayIcon from '@mui/icons-material/PlayArrow';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Tooltip from '@mui/material/Tooltip';
import { MATCHINGS, type Matching } from '../../engine/sources/level-match';
import { clock, figure } from '../kit/format';
import { FIGURE_FACE } from '../theme/theme';
import { CandidateChips } from './candidates/candidate-chips';
import { gainWords } from './candidates/gain-words';
import {
  useAudition,
  useCandidates,
  useEditor,
  useLiveReadings,
  useMixLength,
  useTrack,
  useTransport,
} from './context';
import { useLayout } from './layout';
import { ListeningPlace } from './listening-place';
import { OutputMeter } from './output-meter';
import { VolumeButton } from './volume-button';
import { withKey } from './key-table';

const MATCHING_TITLES: Record<Matching, string> = {
  loudness: 'Match loudness',
  loop: 'Match loudness of the loop',
  truePeak: 'Match true peak',
  none: 'Not matched',
};
/** Values of the choice that name a destination begin with this. */
const AS_PLAYED = 'as ';

/** How candidates are matched, and the gain that the one that is heard gets. */
function LevelMatching() {
  const { audition } = useEditor();
  const matching = useAudition((state) => state.matching);
  const playedAs = useAudition((state) => state.playedAs);
  const heard = useAudition((state) => state.heard);
  const gainDb = useAudition((state) => state.gainsDb[state.heard] as number | undefined);
  const estimated = useAudition((state) => state.estimated);
  const entry = useCandidates(({ entries }) => entries.find(({ id }) => id === heard));
  const destinations = useTrack((state) => state.details.destinations);
  const normalising = destinations.flatMap(({ settings: { name, loudness, truePeak } }) =>
    loudness ? [{ destination: name, targetLufs: loudness.lufs, maxTruePeakDbtp: truePeak.maxDbtp }] : [],
  );
  const choose = (value: string) => {
    const played = normalising.find(({ destination }) => value === AS_PLAYED + destination);
    if (played) audition.playAs(played);
    else audition.setMatching(MATCHINGS.find((each) => each === value) ?? 'loudness');
  };
  return (
    <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1, minWidth: 0 }}>
      <Select
        variant="standard"
        disableUnderline
        value={playedAs ? AS_PLAYED + playedAs.destination : matching}
        inputProps={{ 'aria-label': 'Level matching' }}
        onChange={({ target }) => choose(target.value)}
        renderValue={() => (playedAs ? `As ${playedAs.destination} plays it` : MATCHING_TITLES[matching])}
        sx={{
          ...{
            fontSize: 12.5,
            '& .MuiSelect-select': { py: 0, minHeight: 24, lineHeight: '24px' },
            flexShrink: 1,
            minWidth: 60,
          },
          ...(playedAs && { color: 'warning.main', fontWeight: 650 }),
        }}
      >
        {MATCHINGS.map((each) => (
          <MenuItem key={each} value={each}>
            {MATCHING_TITLES[each]}
          </MenuItem>
        ))}
        {normalising.map(({ destination, targetLufs }) => (
          <MenuItem key={destination} value={AS_PLAYED + destination}>
            As {destination} plays it: normalised to {figure(targetLufs)} LUFS
          </MenuItem>
        ))}
      </Select>
      <Box
        sx={{
          ...{ color: 'text.secondary', fontSize: 12, whiteSpace: 'nowrap' },
          overflow: 'hidden',
          textOverflow: 'ellipsis',
        }}
        data-testid="level-match"
      >
        {entry?.problem ??
          (entry?.share != null
            ? `${Math.round(100 * entry.share)} % ready`
            : `${(entry?.short ?? 'Master').toLowerCase()} ${gainWords(gainDb)}${estimated && matching !== 'none' ? ' (est.)' : ''}`)}
      </Box>
    </Box>
  );
}

/** Plays only what differs between the two that were heard last. */
function Difference() {
  const { audition } = useEditor();
  const on = useAudition((state) => state.difference);
  const heard = useAudition((state) => state.heard);
  const other = useAudition((state) => state.other);
  const entries = useCandidates((state) => state.entries);
  const name = (id: string) => entries.find((entry) => entry.id === id)?.short.toLowerCase() ?? 'master';
  return (
    <Tooltip
      title={withKey(
        `Only the change: ${name(heard)} less ${name(other)}, at the same place and matched level`,
        'change',
      )}
    >
      <Button
        variant="outlined"
        size="small"
        aria-pressed={on}
        onClick={() => audition.hearDifference(!on)}
        sx={{ py: 0, minHeight: 26, ...(on && { bgcolor: 'text.primary', color: 'background.default' }) }}
      >
        Change
      </Button>
    </Tooltip>
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
  const loop = useTransport((state) => state.loop);
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
          onClick={() => editor.navigation.toggleLoop()}
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
          onClick={() => editor.navigation.toLoudest()}
          sx={{ flexShrink: 0 }}
        >
          Loudest
        </Button>
      </Tooltip>
      {ready ? <Position short={narrow} /> : <Box role="status">Loading the mix, {Math.round(arrived * 100)} %</Box>}
      <Box sx={{ flex: '1 1 auto', minWidth: 0, maxWidth: narrow ? 340 : 460, display: 'grid', gap: 0.25 }}>
        <Box sx={{ display: 'flex', gap: 1, minWidth: 0 }}>
          <CandidateChips narrow={narrow} />
          <Difference />
        </Box>
        <LevelMatching />
      </Box>
      <ListeningPlace />
      <VolumeButton />
      <OutputMeter />
    </Box>
  );
}
