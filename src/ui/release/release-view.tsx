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
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import DragIcon from '@mui/icons-material/DragIndicator';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import LinearProgress from '@mui/material/LinearProgress';
import Paper from '@mui/material/Paper';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import type { Finding } from '../../core/measure/findings';
import { sendBackText } from '../../core/measure/send-back';
import {
  type ChangeRelease,
  type ChangeTrack,
  createdReleaseSchema,
  type MixSummary,
  type Removable,
  releaseDetailSchema,
  releaseParticularsSchema,
  type TrackSummary,
  trackParticularsSchema,
} from '../../contracts/release';
import { api, send as tell } from '../api';
import { DropZone } from '../releases/drop-zone';
import { filesNamed } from '../releases/files-named';
import { useUploads, type UploadRow } from '../releases/uploads';
import { reading, readingWords } from '../../core/measure/reading';
import { audioFormat, clock, count } from '../kit/format';
import { ActionsMenu } from '../kit/actions-menu';
import { EditableTitle } from '../kit/editable-title';
import { Page } from '../kit/page';
import { offerUndo } from '../kit/undo-store';
import { FindingsList } from './findings-list';
import { IntakeFigures } from './intake-figures';
import { MixList } from './mix-list';
import { ParticularsDialog, RELEASE_FIELDS, TRACK_FIELDS } from './particulars-dialog';
import { LoudnessChart } from './loudness-chart';

const POLL_MS = 700;

function UploadStrip({ row }: { row: UploadRow }) {
  const dismiss = useUploads((store) => store.dismiss);
  if (row.problem) {
    return (
      <Alert severity="error" onClose={() => dismiss(row.key)}>
        {row.problem}
      </Alert>
    );
  }
  return (
    <Paper
      variant="outlined"
      sx={{ px: 2, py: 1.25, display: 'grid', gridTemplateColumns: '1fr 240px 80px', gap: 2, alignItems: 'center' }}
    >
      <Typography noWrap>{row.fileName}</Typography>
      <LinearProgress variant="determinate" value={row.share * 100} aria-label={`Upload of ${row.fileName}`} />
      <Button onClick={row.cancel} color="inherit">
        Cancel
      </Button>
    </Paper>
  );
}

/** How far the analysis of a mix is, or why it was refused. */
function MixState({ mix, onRemove }: { mix: MixSummary; onRemove: () => void }) {
  if (mix.status === 'ready') return null;
  if (mix.status === 'refused') {
    return (
      <Alert severity="error" action={<Button onClick={onRemove}>Remove</Button>}>
        {mix.fileName}: {mix.refusal}
      </Alert>
    );
  }
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 80px', gap: 2, alignItems: 'center' }}>
      <Box>
        <Typography color="textSecondary">
          {mix.heldBecause ?? (mix.status === 'waiting' ? 'In the queue for analysis' : 'Analysing the mix')}
        </Typography>
        <LinearProgress variant="determinate" value={mix.progress * 100} aria-label={`Analysis of ${mix.fileName}`} />
      </Box>
      <Button onClick={onRemove} color="inherit">
        Cancel
      </Button>
    </Box>
  );
}

/** A text for the client, ready to paste, when a mix is better sent back. */
function SendBack({ title, fileName, findings }: { title: string; fileName: string; findings: Finding[] }) {
  const [copied, setCopied] = useState(false);
  const text = sendBackText(title, fileName, findings);
  if (!text) return null;
  return (
    <Box>
      <Button
        variant="outlined"
        onClick={() => void navigator.clipboard.writeText(text).then(() => setCopied(true))}
        onBlur={() => setCopied(false)}
      >
        {copied ? 'Copied: paste it into an e-mail' : 'Copy note for the client'}
      </Button>
    </Box>
  );
}

/** Takes a corrected mix of a track. */
function NextMix({ number, onFile }: { number: number; onFile: (file: File) => void }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Tooltip title="A corrected mix goes under the same versions; you can switch back to the older one">
        <Button color="inherit" onClick={() => input.current?.click()}>
          Upload mix {number}…
        </Button>
      </Tooltip>
      <input
        ref={input}
        type="file"
        hidden
        aria-label={`Mix ${number} to upload`}
        onChange={({ target }) => {
          if (target.files?.[0]) onFile(target.files[0]);
          target.value = '';
        }}
      />
    </>
  );
}

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

interface TrackActions {
  /** Drops a track whose mix never was ready. */
  cancel: () => void;
  remove: () => void;
  copy: () => void;
  /** Moves it by one place. */
  move: (by: -1 | 1) => void;
  change: (changes: ChangeTrack) => Promise<void>;
  removeMix: (mix: MixSummary) => void;
  chooseMix: (mix: MixSummary) => void;
  putIn: (file: File) => void;
}

function TrackCard({
  track,
  last,
  uploads,
  actions,
}: {
  track: TrackSummary;
  last: boolean;
  uploads: UploadRow[];
  actions: TrackActions;
}) {
  const { id, title, position, mix, mixes, deliveries } = track;
  const [open, setOpen] = useState(false);
  const [editing, setEditing] = useState(false);
  const { setNodeRef, setActivatorNodeRef, listeners, attributes, transform, transition, isDragging } = useSortable({
    id,
  });
  const only = mixes.length < 2;
  const report = mix?.status === 'ready' ? mix.report : null;
  return (
    <Paper
      ref={setNodeRef}
      variant="outlined"
      component="article"
      aria-label={title}
      sx={{ p: 2.5, display: 'grid', gap: 1.5, position: 'relative', zIndex: isDragging ? 1 : 0 }}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}>
        <Tooltip title="Drag to reorder; by key: Space, then the arrows, then Space">
          <IconButton
            ref={setActivatorNodeRef}
            size="small"
            {...attributes}
            {...listeners}
            aria-label={`Move ${title}`}
            sx={{ cursor: 'grab', ml: -1, touchAction: 'none' }}
          >
            <DragIcon fontSize="small" />
          </IconButton>
        </Tooltip>
        <EditableTitle
          variant="h2"
          before={`${position} · `}
          title={title}
          schema={trackParticularsSchema.shape.title}
          onRename={(next) => void actions.change({ title: next })}
        />
        <Typography color="textSecondary" noWrap sx={{ flex: 1, minWidth: 0 }}>
          {mix && `Mix ${mix.number}, ${mix.source.container}, ${audioFormat(mix.source)}`}
          {report &&
            `, ${clock(report.durationSeconds)} min, ${readingWords(reading('loudness', report.integratedLufs))}, ${readingWords(reading('truePeak', report.headroomDb === null ? null : -report.headroomDb))}`}
          {deliveries > 0 && ` · ${count(deliveries, 'delivery', 'deliveries')}`}
        </Typography>
        {report && (
          <>
            <NextMix number={mixes[0].number + 1} onFile={actions.putIn} />
            <Button color="inherit" onClick={() => setOpen(!open)} aria-expanded={open}>
              {open ? 'Fewer figures' : 'All figures'}
            </Button>
            <Button component={Link} href={`/tracks/${id}`} variant="contained">
              Open
            </Button>
          </>
        )}
        <ActionsMenu
          of={title}
          actions={[
            { title: 'Particulars…', onChoose: () => setEditing(true) },
            { title: 'Duplicate', onChoose: actions.copy, disabled: !report },
            { title: 'Move up', onChoose: () => actions.move(-1), disabled: position === 1 },
            { title: 'Move down', onChoose: () => actions.move(1), disabled: last },
            { title: 'Delete', onChoose: actions.remove },
          ]}
        />
      </Box>
      {editing && (
        <ParticularsDialog
          title={`Particulars of ${title}`}
          fields={TRACK_FIELDS}
          schema={trackParticularsSchema}
          values={track}
          onSave={actions.change}
          onClose={() => setEditing(false)}
        />
      )}
      {uploads.map((row) => (
        <UploadStrip key={row.key} row={row} />
      ))}
      {mixes.map((each) => (
        <MixState key={each.id} mix={each} onRemove={only ? actions.cancel : () => actions.removeMix(each)} />
      ))}
      {report && <FindingsList findings={report.findings} />}
      {report && <SendBack title={title} fileName={mix!.fileName} findings={report.findings} />}
      <MixList track={track} onChoose={actions.chooseMix} onRemove={actions.removeMix} />
      {report && open && <IntakeFigures source={mix!.source} report={report} />}
    </Paper>
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
    refetchInterval: ({ state }) =>
      state.data?.tracks.some(({ mixes }) => mixes.some(({ status }) => status === 'waiting' || status === 'analysing'))
        ? POLL_MS
        : false,
  });
  const uploads = rows.filter((row) => row.releaseId === releaseId);
  const router = useRouter();
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const [editing, setEditing] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  // A release that was deleted may be brought back from the list of releases.
  const refresh = () => void client.invalidateQueries();
  const ask = (path: string, options: Parameters<typeof tell>[1]): Promise<boolean> =>
    tell(path, options)
      .then(() => (setProblem(null), true))
      .catch((caught: unknown) => (setProblem((caught as Error).message), false))
      .finally(refresh);
  /** Deletes something and offers to bring it back. */
  const remove = async (kind: Removable['kind'], id: string, path: string, what: string) => {
    if (!(await ask(path, { method: 'DELETE' }))) return;
    offerUndo(`${what} is deleted`, () => void ask('/api/removed/restored', { method: 'POST', body: { kind, id } }));
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
  });

  const change = async (body: ChangeRelease) => {
    await tell(`/api/releases/${releaseId}`, { method: 'PATCH', body });
    refresh();
  };
  const copy = async () => {
    const { id } = await api(createdReleaseSchema, `/api/releases/${releaseId}/copies`, { method: 'POST' });
    router.push(`/releases/${id}`);
  };
  const removeRelease = async () => {
    await remove('release', releaseId, `/api/releases/${releaseId}`, `“${data?.title}”`);
    router.push('/');
  };
  const placeOf = (id: UniqueIdentifier) => data?.tracks.findIndex((track) => track.id === id) ?? -1;

  return (
    <Page crumbs={[{ title: 'Releases', href: '/' }, { title: data?.title ?? 'Release' }]}>
      {isPending && <LinearProgress aria-label="Loading the release" />}
      {error && (
        <Alert severity="error" action={<Button onClick={() => void refetch()}>Try again</Button>}>
          {error.message}
        </Alert>
      )}
      {data && (
        <Box sx={{ display: 'grid', gap: 2 }}>
          <Box>
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
              <EditableTitle
                variant="h1"
                title={data.title}
                schema={releaseParticularsSchema.shape.title}
                onRename={(title) => void change({ title })}
              />
              <Box sx={{ flex: 1 }} />
              <ActionsMenu
                of={data.title}
                actions={[
                  { title: 'Particulars…', onChoose: () => setEditing(true) },
                  { title: 'Duplicate', onChoose: () => void copy() },
                  {
                    title: data.archived ? 'Take out of the archive' : 'Archive',
                    onChoose: () => void change({ archived: !data.archived }),
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
          </Box>
          {editing && (
            <ParticularsDialog
              title={`Particulars of ${data.title}`}
              fields={RELEASE_FIELDS}
              schema={releaseParticularsSchema}
              values={data}
              onSave={change}
              onClose={() => setEditing(false)}
            />
          )}
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
                Loudness of the mixes, LUFS
              </Typography>
              <LoudnessChart tracks={data.tracks} />
            </Box>
          )}
        </Box>
      )}
    </Page>
  );
}
