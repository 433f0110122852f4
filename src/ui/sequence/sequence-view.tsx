'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import {
  levelledReleaseSchema,
  releaseDetailSchema,
  type ChangeTrack,
  type LevelRelease,
  type TrackSummary,
} from '../../contracts/release';
import { api, send } from '../api';
import { clock, count, figure } from '../kit/format';
import { Page } from '../kit/page';
import { offerUndo } from '../kit/undo-store';
import { BalancePictures } from './balance-pictures';
import { ImageDialog } from './image-dialog';
import { LevelDialog } from './level-dialog';
import { layOut, loudnessOfAlbum, totalSeconds } from './sequence';
import { SequenceTable } from './sequence-table';
import { Timeline } from './timeline';
import { useJointPlayer } from './use-joint-player';

const POLL_MS = 700;

const isUnderWay = ({ mix, master }: TrackSummary) =>
  typeof master?.checking === 'number' || mix?.status === 'waiting' || mix?.status === 'analysing';

/** A release as it is put together: order, joints, loudness of the album, image. */
export function SequenceView({ releaseId }: { releaseId: string }) {
  const client = useQueryClient();
  const path = `/api/releases/${releaseId}`;
  const { data, error, isPending, refetch } = useQuery({
    queryKey: ['release', releaseId],
    queryFn: () => api(releaseDetailSchema, path),
    refetchInterval: ({ state }) => (state.data?.tracks.some(isUnderWay) ? POLL_MS : false),
  });
  const [levelling, setLevelling] = useState(false);
  const [imaging, setImaging] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const joints = useJointPlayer(releaseId);
  const refresh = () => void client.invalidateQueries({ queryKey: ['release'] });
  const tell = (work: Promise<unknown>) =>
    void work
      .then(() => setProblem(null))
      .catch((caught: Error) => setProblem(sentenceOf(caught)))
      .finally(refresh);
  const changeTrack = (id: string, body: ChangeTrack) => tell(send(`/api/tracks/${id}`, { method: 'PATCH', body }));
  const move = ({ id, position }: TrackSummary, by: number) => {
    if (!data) return;
    const ids = data.tracks.map((track) => track.id).filter((other) => other !== id);
    ids.splice(position - 1 + by, 0, id);
    tell(send(`${path}/order`, { method: 'PUT', body: { ids } }));
  };
  const level = async (trims: LevelRelease['trims']) => {
    const steps = await api(levelledReleaseSchema, `${path}/levels`, { method: 'POST', body: { trims } });
    refresh();
    offerUndo('The release is levelled', () => tell(send(`${path}/levels`, { method: 'DELETE', body: steps })));
  };
  const laidOut = data ? layOut(data) : [];
  const albumLufs = loudnessOfAlbum(laidOut);
  const loudest = laidOut.reduce(
    (most, { track }) => Math.max(most, track.master?.summary?.integratedLufs ?? -Infinity),
    -Infinity,
  );
  const withJoint = laidOut.slice(1).map(({ track }) => track.id);

  return (
    <Page
      crumbs={[
        { title: 'Releases', href: '/' },
        { title: data?.title ?? 'Release', href: `/releases/${releaseId}` },
        { title: 'Sequence' },
      ]}
    >
      {isPending && <LinearProgress aria-label="Loading the release" />}
      {error && (
        <Alert severity="error" action={<Button onClick={() => void refetch()}>Try again</Button>}>
          {sentenceOf(error)}
        </Alert>
      )}
      {data && (
        <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr)', gap: 2 }}>
          <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1 }}>
            <Box sx={{ flex: '1 1 300px' }}>
              <Typography variant="h1">Sequence of {data.title}</Typography>
              <Typography color="textSecondary" role="status">
                {[
                  count(laidOut.length, 'track'),
                  clock(totalSeconds(laidOut)),
                  albumLufs === null ? 'album loudness: checking…' : `album ${figure(albumLufs)} LUFS`,
                  ...(Number.isFinite(loudest) ? [`loudest track ${figure(loudest)} LUFS`] : []),
                ].join(', ')}
              </Typography>
            </Box>
            <Button
              variant="outlined"
              disabled={withJoint.length === 0}
              onClick={() => (joints.playing ? joints.stop() : void joints.play(withJoint))}
            >
              {joints.playing ? 'Stop' : 'Play all joints'}
            </Button>
            <Button variant="outlined" disabled={albumLufs === null} onClick={() => setLevelling(true)}>
              Level…
            </Button>
            <Button variant="contained" disabled={laidOut.length === 0} onClick={() => setImaging(true)}>
              Image…
            </Button>
          </Box>
          {(problem ?? joints.problem) && <Alert severity="error">{problem ?? joints.problem}</Alert>}
          {laidOut.length > 0 && <Timeline laidOut={laidOut} playing={joints.playing} />}
          {data.tracks.length === 0 ? (
            <Alert severity="info">There is no track in this release yet. Upload mixes on its page first.</Alert>
          ) : (
            <SequenceTable
              {...{ release: data, laidOut, albumLufs, playing: joints.playing }}
              onPlay={(id) => (joints.playing === id ? joints.stop() : void joints.play([id]))}
              onChange={changeTrack}
              onMove={move}
            />
          )}
          <BalancePictures laidOut={laidOut} />
          {levelling && (
            <LevelDialog release={data} laidOut={laidOut} onLevel={level} onClose={() => setLevelling(false)} />
          )}
          {imaging && <ImageDialog release={data} onClose={() => setImaging(false)} />}
        </Box>
      )}
    </Page>
  );
}
