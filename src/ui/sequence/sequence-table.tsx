'use client';

import PlayIcon from '@mui/icons-material/PlayArrow';
import StopIcon from '@mui/icons-material/Stop';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Link from 'next/link';
import { adjustedVerdict, adjustmentAmong } from '../../contracts/adjustment';
import type { ChangeTrack, ReleaseDetail, TrackSummary } from '../../contracts/release';
import { ActionsMenu } from '../kit/actions-menu';
import { change, clock, figure } from '../kit/format';
import { adjustedWords, StandingMark } from '../kit/standing';
import { factsOfTrack } from '../release/facts-of-track';
import { FIGURE_FACE } from '../theme/theme';
import { JointField } from './joint-field';
import { SEQUENCE_RATE, type LaidOutTrack } from './sequence';

/** Why a track is not in the sequence yet. */
function absence({ mix }: TrackSummary): string {
  if (!mix) return 'waiting for a mix';
  return mix.status === 'refused' ? 'its mix was refused' : 'its mix is being analysed';
}

/** The tracks in their order: chosen version, how each follows, place, loudness, and which destinations it meets. */
export function SequenceTable({
  release,
  laidOut,
  albumLufs,
  playing,
  onPlay,
  onChange,
  onMove,
}: {
  release: ReleaseDetail;
  laidOut: LaidOutTrack[];
  albumLufs: number | null;
  /** Track whose joint is heard. */
  playing: string | null;
  onPlay: (trackId: string) => void;
  onChange: (trackId: string, body: ChangeTrack) => void;
  onMove: (track: TrackSummary, by: number) => void;
}) {
  const { destinations, adjustments, tracks } = release;
  return (
    <Box sx={{ overflowX: 'auto' }} tabIndex={0} role="group" aria-label="Sequence, scrolls sideways">
      <Box
        component="table"
        aria-label="Sequence"
        sx={{
          borderCollapse: 'collapse',
          width: '100%',
          '& th, & td': { textAlign: 'left', py: 0.75, pr: 1.5, fontWeight: 400, whiteSpace: 'nowrap' },
          '& thead th': { color: 'text.secondary', fontSize: 12.5 },
          '& tbody tr': { borderTop: 1, borderColor: 'divider' },
        }}
      >
        <thead>
          <tr>
            {['Track', 'Version', 'Follows after', 'Starts', 'Length', 'Loudness'].map((title) => (
              <th key={title} scope="col">
                {title}
              </th>
            ))}
            {destinations.map(({ id, settings }) => (
              <th key={id} scope="col">
                {settings.name}
              </th>
            ))}
            <td />
          </tr>
        </thead>
        <tbody>
          {tracks.map((track, i) => {
            const { id, title, position, versions, master, joint } = track;
            const place = laidOut.find((each) => each.track.id === id)?.place;
            const summary = master?.summary;
            const facts = factsOfTrack(release, track);
            const lufs = summary?.integratedLufs ?? null;
            return (
              <tr key={id}>
                <Box component="th" scope="row" sx={{ maxWidth: 190, overflow: 'hidden', textOverflow: 'ellipsis' }}>
                  <Box component={Link} href={`/tracks/${id}`} title={title} sx={{ color: 'inherit', fontWeight: 600 }}>
                    {position} · {title}
                  </Box>
                </Box>
                <td>
                  <Select
                    size="small"
                    value={master?.versionId ?? versions.at(0)?.id ?? ''}
                    inputProps={{ 'aria-label': `Version of “${title}”` }}
                    onChange={({ target }) => onChange(id, { chosenVersionId: target.value })}
                    sx={{ width: 130, fontSize: 13 }}
                  >
                    {versions.map((version) => (
                      <MenuItem key={version.id} value={version.id}>
                        {version.name}
                      </MenuItem>
                    ))}
                  </Select>
                </td>
                <td>
                  {i > 0 && (
                    <Box sx={{ display: 'flex', alignItems: 'flex-start', gap: 0.5 }}>
                      <JointField title={title} joint={joint} onChange={(next) => onChange(id, { joint: next })} />
                      <IconButton
                        size="small"
                        disabled={!place}
                        aria-label={playing === id ? 'Stop the joint' : `Play the joint before “${title}”`}
                        onClick={() => onPlay(id)}
                      >
                        {playing === id ? <StopIcon fontSize="small" /> : <PlayIcon fontSize="small" />}
                      </IconButton>
                    </Box>
                  )}
                </td>
                <Box component="td" sx={{ fontFamily: FIGURE_FACE, fontSize: 13 }}>
                  {place ? clock(place.start / SEQUENCE_RATE, 2) : absence(track)}
                </Box>
                <Box component="td" sx={{ fontFamily: FIGURE_FACE, fontSize: 13 }}>
                  {place && clock((place.end - place.start) / SEQUENCE_RATE, 2)}
                </Box>
                <Box component="td" sx={{ fontFamily: FIGURE_FACE, fontSize: 13 }}>
                  {lufs === null ? (summary ? 'silent' : 'checking…') : `${figure(lufs)} LUFS`}
                  {lufs !== null && albumLufs !== null && (
                    <Box sx={{ color: 'text.secondary', fontSize: 12 }}>{change(lufs - albumLufs)} LU to the album</Box>
                  )}
                </Box>
                {destinations.map(({ id: destinationId, settings }) => {
                  const adjustment = adjustmentAmong(adjustments, master?.versionId ?? '', destinationId);
                  const held = facts && master && adjustedVerdict(settings, facts, adjustment, master.step);
                  return (
                    <td key={destinationId} title={held?.verdict.remedies.join(' ')}>
                      <StandingMark
                        standing={held?.verdict.standing ?? 'unknown'}
                        words={held ? (held.outdated ? adjustedWords(held) : undefined) : 'checking'}
                      />
                    </td>
                  );
                })}
                <td>
                  <ActionsMenu
                    of={title}
                    actions={[
                      ...(i > 0 ? [{ title: 'Move earlier', onChoose: () => onMove(track, -1) }] : []),
                      ...(i < tracks.length - 1 ? [{ title: 'Move later', onChoose: () => onMove(track, 1) }] : []),
                    ]}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </Box>
    </Box>
  );
}
