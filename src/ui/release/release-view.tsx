'use client';

import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type UniqueIdentifier,
} from '@dnd-kit/core';
import { restrictToParentElement, restrictToVerticalAxis } from '@dnd-kit/modifiers';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import {
  type ChangeRelease,
  createdReleaseSchema,
  type Removable,
  releaseDetailSchema,
  releaseParticularsSchema,
  type TrackSummary,
} from '../../contracts/release';
import type { NewDeliveries } from '../../contracts/delivery';
import { api, send as tell } from '../api';
import { DropZone } from '../releases/drop-zone';
import { filesNamed } from '../releases/files-named';
import { useUploads } from '../releases/uploads';
import { count } from '../kit/format';
import { ActionsMenu } from '../kit/actions-menu';
import { EditableTitle } from '../kit/editable-title';
import { Page } from '../kit/page';
import { offerUndo } from '../kit/undo-store';
import { CoverButton } from './cover-button';
import { DeliverReleaseDialog } from './deliver-release-dialog';
import { ParticularsDialog, RELEASE_FIELDS } from './particulars-dialog';
import { LinksDialog } from './links/links-dialog';
import { LoudnessChart } from './loudness-chart';
import { ReleaseDestinationsDialog } from './release-destinations-dialog';
import { factsOfTrack } from './facts-of-track';
import { TrackCard, type TrackActions, UploadStrip } from './track-card';

const POLL_MS = 700;

/** What a screen reader says while a track is being moved. */
function announcementsOf(tracks: TrackSummary[]): Announcements {
  const title = (id: UniqueIdentifier) => tracks.find((track) => track.id === id)?.title ?? '';
  const place = (over: { id: UniqueIdentifier } | null) =>
    over ? `place ${tracks.findIndex(({ id }) => id === over.id) + 1} of ${tracks.length}` : 'no place';
  return {
    onDragStart: ({ active }) => `Picked up ${title(active.id)}.`,
    onDragOver: ({ active, over }) => `${title(active.id)} is over ${place(over)}.`,
    onDragEnd: ({ active, over }) => `${title(active.id)} was put at ${place(over)}.`,
    onDragCancel: ({ active }) => `${title(active.id)} stays where it was.`,
  };
}

const UNDER_WAY: readonly string[] = ['waiting', 'analysing', 'rendering'];

/** Whether something of a track is being analysed, measured or rendered. */
function isUnderWay({ mixes, master, deliveries }: TrackSummary): boolean {
  return (
    typeof master?.checking === 'number' || [...mixes, ...deliveries].some(({ status }) => UNDER_WAY.includes(status))
  );
}

/** One release: upload mixes, see what intake found, open a track. */
export function ReleaseView({ releaseId }: { releaseId: string }) {
  const client = useQueryClient();
  const { rows, send, taken } = useUploads();
  const queryKey = ['release', releaseId];
  const { data, error, isPending, refetch } = useQuery({
    // What the server took since the last answer is asked for again, also while an answer is on its way.
    queryKey: [...queryKey, taken],
    placeholderData: keepPreviousData,
    queryFn: () => api(releaseDetailSchema, `/api/releases/${releaseId}`),
    refetchInterval: ({ state }) => (state.data?.tracks.some(isUnderWay) ? POLL_MS : false),
  });
  const uploads = rows.filter((row) => row.releaseId === releaseId);
  const router = useRouter();
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const [editing, setEditing] = useState(false);
  const [delivering, setDelivering] = useState(false);
  const [sharing, setSharing] = useState(false);
  const [choosing, setChoosing] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  // A release that was deleted may be brought back from the list of releases.
  const refresh = () => void client.invalidateQueries();
  const ask = (path: string, options: Parameters<typeof tell>[1]): Promise<boolean> =>
    tell(path, options)
      .then(() => (setProblem(null), true))
      .catch((caught: unknown) => (setProblem(sentenceOf(caught)), false))
      .finally(refresh);
  /** Deletes something and offers to bring it back. */
  const remove = async (kind: Removable['kind'], id: string, path: string, what: string): Promise<boolean> => {
    if (!(await ask(path, { method: 'DELETE' }))) return false;
    offerUndo(`${what} is deleted`, () => void ask('/api/removed/restored', { method: 'POST', body: { kind, id } }));
    return true;
  };
  const reorder = (from: number, to: number) => {
    if (!data || from === to || to < 0 || to >= data.tracks.length) return;
    const tracks = arrayMove(data.tracks, from, to).map((track, i) => ({ ...track, position: i + 1 }));
    // Shown at once, so that nothing jumps back while the server is told.
    client.setQueryData([...queryKey, taken], { ...data, tracks });
    void ask(`/api/releases/${releaseId}/order`, { method: 'PUT', body: { ids: tracks.map(({ id }) => id) } });
  };
  const actionsOn = ({ id, title, position }: TrackSummary): TrackActions => ({
    cancel: () => void ask(`/api/tracks/${id}`, { method: 'DELETE' }),
    remove: () => void remove('track', id, `/api/tracks/${id}`, `“${title}”`),
    copy: () => void ask(`/api/tracks/${id}/copies`, { method: 'POST' }),
    move: (by) => reorder(position - 1, position - 1 + by),
    rename: (next) => void ask(`/api/tracks/${id}`, { method: 'PATCH', body: { title: next } }),
    change: async (body) => {
      await tell(`/api/tracks/${id}`, { method: 'PATCH', body });
      refresh();
    },
    removeMix: (mix) =>
      void (mix.status === 'ready'
        ? remove('mix', mix.id, `/api/mixes/${mix.id}`, `Mix ${mix.number} of “${title}”`)
        : ask(`/api/mixes/${mix.id}`, { method: 'DELETE' })),
    chooseMix: (mix) => void ask(`/api/tracks/${id}/mix`, { method: 'PUT', body: { mixId: mix.id } }),
    putIn: (file) => void send(releaseId, [{ file }], id),
    moveTo: async (to) => {
      await tell(`/api/tracks/${id}/release`, { method: 'PUT', body: { releaseId: to } });
      refresh();
    },
  });

  const own = `/api/releases/${releaseId}`;
  const change = (body: ChangeRelease) => void ask(own, { method: 'PATCH', body });
  const saveParticulars = async (body: ChangeRelease) => {
    await tell(own, { method: 'PATCH', body });
    refresh();
  };
  const deliver = async (body: NewDeliveries) => {
    await tell(`${own}/deliveries`, { method: 'POST', body });
    refresh();
  };
  const sendCover = async (file: File) => {
    const body = new Uint8Array(await file.arrayBuffer());
    await ask(`${own}/cover?name=${encodeURIComponent(file.name)}`, { method: 'PUT', body });
  };
  const copy = () =>
    void api(createdReleaseSchema, `${own}/copies`, { method: 'POST' })
      .then(({ id }) => router.push(`/releases/${id}`))
      .catch((caught: unknown) => setProblem(sentenceOf(caught)));
  const removeRelease = async () => {
    if (await remove('release', releaseId, own, `“${data?.title}”`)) router.push('/');
  };
  const placeOf = (id: UniqueIdentifier) => data?.tracks.findIndex((track) => track.id === id) ?? -1;

  return (
    <Page crumbs={[{ title: 'Releases', href: '/' }, { title: data?.title ?? 'Release' }]}>
      {isPending && <LinearProgress aria-label="Loading the release" />}
      {error && (
        <Alert severity="error" action={<Button onClick={() => void refetch()}>Try again</Button>}>
          {sentenceOf(error)}
        </Alert>
      )}
      {data && (
        <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr)', gap: 2 }}>
          <Box>
            <Box sx={{ display: 'flex', flexWrap: { xs: 'wrap', sm: 'nowrap' }, alignItems: 'center', gap: 1 }}>
              <CoverButton
                release={data}
                onChoose={(file) => void sendCover(file)}
                onRemove={() => void ask(`${own}/cover`, { method: 'DELETE' })}
              />
              <EditableTitle
                variant="h1"
                title={data.title}
                schema={releaseParticularsSchema.shape.title}
                onRename={(title) => change({ title })}
              />
              <Box sx={{ flex: 1 }} />
              {data.tracks.length > 0 && (
                <Button component={Link} href={`/releases/${releaseId}/sequence`} variant="outlined">
                  Sequence
                </Button>
              )}
              {data.tracks.some(({ master }) => master) && (
                <>
                  <Button variant="outlined" onClick={() => setSharing(true)}>
                    Listening page…
                  </Button>
                  <Button variant="outlined" onClick={() => setDelivering(true)}>
                    Deliver…
                  </Button>
                </>
              )}
              {data.tracks.some(({ deliveries }) => deliveries.some(({ status }) => status === 'finished')) && (
                <Button
                  component="a"
                  href={`${own}/package`}
                  download
                  color="inherit"
                  title="The newest finished file of each track for each destination, with receipts, checksums and a note"
                >
                  Download all
                </Button>
              )}
              <ActionsMenu
                of={data.title}
                actions={[
                  { title: 'Particulars…', onChoose: () => setEditing(true) },
                  { title: 'Destinations…', onChoose: () => setChoosing(true) },
                  { title: 'Duplicate', onChoose: copy },
                  {
                    title: data.archived ? 'Take out of the archive' : 'Archive',
                    onChoose: () => change({ archived: !data.archived }),
                  },
                  { title: 'Delete', onChoose: () => void removeRelease() },
                ]}
              />
            </Box>
            <Typography color="textSecondary">
              {[data.artist, data.year, count(data.tracks.length, 'track'), data.archived ? 'archived' : null]
                .filter(Boolean)
                .join(', ')}
            </Typography>
            <Box
              sx={{ display: 'flex', alignItems: 'center', flexWrap: 'wrap', columnGap: 1, color: 'text.secondary' }}
            >
              {data.destinations.length > 0
                ? `For ${data.destinations.map(({ settings }) => settings.name).join(', ')}`
                : 'No destination yet'}
              <Button color="inherit" onClick={() => setChoosing(true)}>
                {data.destinations.some(({ newer }) => newer) ? 'Newer values on the shelf…' : 'Change destinations…'}
              </Button>
            </Box>
          </Box>
          {choosing && (
            <ReleaseDestinationsDialog release={data} onChanged={refresh} onClose={() => setChoosing(false)} />
          )}
          {editing && (
            <ParticularsDialog
              title={`Particulars of ${data.title}`}
              fields={RELEASE_FIELDS}
              schema={releaseParticularsSchema}
              values={data}
              onSave={saveParticulars}
              onClose={() => setEditing(false)}
            />
          )}
          {sharing && <LinksDialog release={data} onClose={() => setSharing(false)} />}
          {delivering && <DeliverReleaseDialog release={data} onStart={deliver} onClose={() => setDelivering(false)} />}
          {problem && <Alert severity="error">{problem}</Alert>}
          <DndContext
            sensors={sensors}
            modifiers={[restrictToVerticalAxis, restrictToParentElement]}
            accessibility={{ announcements: announcementsOf(data.tracks) }}
            onDragEnd={({ active, over }) => over && reorder(placeOf(active.id), placeOf(over.id))}
          >
            <SortableContext items={data.tracks.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
              {data.tracks.map((track, i) => (
                <TrackCard
                  key={track.id}
                  track={track}
                  releaseId={releaseId}
                  destinations={data.destinations}
                  adjustments={data.adjustments}
                  facts={factsOfTrack(data, track)}
                  last={i === data.tracks.length - 1}
                  uploads={uploads.filter(({ trackId }) => trackId === track.id)}
                  actions={actionsOn(track)}
                />
              ))}
            </SortableContext>
          </DndContext>
          {uploads
            .filter(({ trackId }) => trackId === null)
            .map((row) => (
              <UploadStrip key={row.key} row={row} />
            ))}
          <DropZone
            title={data.tracks.length === 0 ? 'Drop the first mix here' : 'Drop more mixes here, one per track'}
            onFiles={(files) => void send(releaseId, filesNamed(files).files)}
          />
          {data.tracks.length > 1 && (
            <Box component="section">
              <Typography variant="h3" sx={{ mt: 2, mb: 1 }}>
                Loudness, LUFS: mixes and their masters
              </Typography>
              <LoudnessChart tracks={data.tracks} />
            </Box>
          )}
        </Box>
      )}
    </Page>
  );
}
