'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { keepPreviousData, useInfiniteQuery, useQueryClient } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useDeferredValue, useState } from 'react';
import { useForm } from 'react-hook-form';
import { sentenceOf } from '../../core/sentence-of';
import {
  createdReleaseSchema,
  type NewRelease,
  newReleaseSchema,
  RELEASE_ORDERS,
  RELEASE_STATUSES,
  type ReleaseOrder,
  type ReleaseStatus,
  type ReleasePage,
  releasePageSchema,
  type ReleaseSummary,
} from '../../contracts/release';
import { api, send as tell } from '../api';
import type { Action } from '../kit/actions-menu';
import { ChoiceField } from '../kit/choice-field';
import { Page } from '../kit/page';
import { offerUndo } from '../kit/undo-store';
import { DropZone } from './drop-zone';
import { filesNamed } from './files-named';
import { Inbox } from './inbox';
import { ReleaseRow } from './release-row';
import { useUploads } from './uploads';

const ORDERS = Object.entries(RELEASE_ORDERS).map(([value, title]) => ({ value: value as ReleaseOrder, title }));
const STATUSES = [
  { value: 'all' as const, title: 'Any status' },
  ...Object.entries(RELEASE_STATUSES).map(([value, title]) => ({ value: value as ReleaseStatus, title })),
];

function NewReleaseDialog({
  open,
  onClose,
  onCreate,
}: {
  open: boolean;
  onClose: () => void;
  onCreate: (release: NewRelease) => Promise<void>;
}) {
  const { register, handleSubmit, formState, setError } = useForm<{ title: string; artist?: string | undefined }>({
    resolver: zodResolver(newReleaseSchema),
  });
  const { errors, isSubmitting } = formState;
  const submit = handleSubmit((values) =>
    onCreate({ artist: '', ...values }).catch((error: unknown) => setError('title', { message: sentenceOf(error) })),
  );
  return (
    <Dialog open={open} onClose={onClose} fullWidth maxWidth="xs">
      <form noValidate onSubmit={(event) => void submit(event)}>
        <DialogTitle>New release</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2, pt: '8px !important' }}>
          <TextField
            autoFocus
            size="small"
            label="Title"
            {...register('title')}
            error={!!errors.title}
            helperText={errors.title?.message ?? 'Album, EP or single'}
          />
          <TextField
            size="small"
            label="Artist"
            {...register('artist')}
            error={!!errors.artist}
            helperText={errors.artist?.message ?? 'Optional'}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose} color="inherit">
            Cancel
          </Button>
          <Button type="submit" variant="contained" disabled={isSubmitting}>
            Create
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}

/** All releases; drop files to begin a new one. */
export function ReleasesView() {
  const router = useRouter();
  const [creating, setCreating] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [archived, setArchived] = useState(false);
  const [typed, setTyped] = useState('');
  const search = useDeferredValue(typed.trim());
  const [order, setOrder] = useState<ReleaseOrder>('newest');
  const [status, setStatus] = useState<ReleaseStatus | 'all'>('all');
  const client = useQueryClient();
  const send = useUploads((store) => store.send);
  const { data, error, isPending, refetch, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery({
    queryKey: ['releases', archived, search, order, status],
    placeholderData: keepPreviousData,
    initialPageParam: null as string | null,
    queryFn: ({ pageParam }) =>
      api(
        releasePageSchema,
        `/api/releases?${new URLSearchParams({
          ...(pageParam === null ? {} : { after: pageParam }),
          ...(archived ? { archived: '' } : {}),
          ...(search === '' ? {} : { search }),
          ...(status === 'all' ? {} : { status }),
          order,
        }).toString()}`,
      ),
    getNextPageParam: ({ next }: ReleasePage) => next,
  });
  const releases = data?.pages.flatMap((page) => page.releases) ?? [];

  const create = async (release: NewRelease): Promise<string> => {
    const { id } = await api(createdReleaseSchema, '/api/releases', { method: 'POST', body: release });
    router.push(`/releases/${id}`);
    return id;
  };

  const begin = async (files: File[]) => {
    setProblem(null);
    try {
      const { release, files: named } = filesNamed(files);
      const id = await create({ title: release, artist: '' });
      void send(id, named);
    } catch (caught) {
      setProblem(sentenceOf(caught));
    }
  };

  const ask = async (work: () => Promise<unknown>) => {
    setProblem(null);
    await work().catch((caught: unknown) => setProblem(sentenceOf(caught)));
    await client.invalidateQueries();
  };
  const actionsOn = ({ id, title, archived: away }: ReleaseSummary): Action[] => {
    const path = `/api/releases/${id}`;
    const remove = async () => {
      await tell(path, { method: 'DELETE' });
      const back = { method: 'POST', body: { kind: 'release', id } };
      offerUndo(`“${title}” is deleted`, () => void ask(() => tell('/api/removed/restored', back)));
    };
    return [
      { title: 'Duplicate', onChoose: () => void ask(() => tell(`${path}/copies`, { method: 'POST' })) },
      {
        title: away ? 'Take out of the archive' : 'Archive',
        onChoose: () => void ask(() => tell(path, { method: 'PATCH', body: { archived: !away } })),
      },
      { title: 'Delete', onChoose: () => void ask(remove) },
    ];
  };

  return (
    <Page
      crumbs={[{ title: 'Releases' }]}
      actions={
        <>
          <Button aria-pressed={archived} color="inherit" onClick={() => setArchived(!archived)}>
            {archived ? 'Show current releases' : 'Show the archive'}
          </Button>
          <Button variant="outlined" onClick={() => setCreating(true)}>
            New release
          </Button>
        </>
      }
    >
      <Typography variant="h1" sx={{ mb: 0.5 }}>
        Releases
      </Typography>
      <Typography color="textSecondary" sx={{ mb: 3 }}>
        Everything you are working on. Open a release, or drop mixes to start one.
      </Typography>
      <DropZone title="Drop finished mixes here to start a release" onFiles={(files) => void begin(files)} />
      {problem && (
        <Alert severity="error" sx={{ mt: 2 }}>
          {problem}
        </Alert>
      )}
      <Inbox />
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, mt: 3 }}>
        <TextField
          size="small"
          type="search"
          label="Search"
          placeholder="Title, artist, track, ISRC or EAN"
          value={typed}
          onChange={({ target }) => setTyped(target.value)}
          slotProps={{ htmlInput: { maxLength: 100 } }}
          sx={{ flex: '1 1 260px', maxWidth: 420 }}
        />
        <ChoiceField label="Order" value={order} options={ORDERS} width={150} onChange={setOrder} />
        <ChoiceField label="Status" value={status} options={STATUSES} width={190} onChange={setStatus} />
      </Box>
      <Box component="section" aria-label="Releases" sx={{ mt: 2, display: 'grid', gap: 1 }}>
        {isPending && <LinearProgress aria-label="Loading the releases" />}
        {error && (
          <Alert severity="error" action={<Button onClick={() => void refetch()}>Try again</Button>}>
            {sentenceOf(error)}
          </Alert>
        )}
        {data && releases.length === 0 && (archived || search !== '' || status !== 'all') && (
          <Typography color="textSecondary">
            {search === ''
              ? status === 'all'
                ? 'Nothing is archived.'
                : `No release has the status “${RELEASE_STATUSES[status]}”.`
              : `Nothing found for “${search}”${archived ? ' in the archive' : ''}.`}
          </Typography>
        )}
        {releases.map((release) => (
          <ReleaseRow key={release.id} release={release} actions={actionsOn(release)} />
        ))}
        {hasNextPage && (
          <Button sx={{ justifySelf: 'center' }} disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
            {search === '' && order === 'newest' && status === 'all' ? 'Show older releases' : 'Show more releases'}
          </Button>
        )}
      </Box>
      <NewReleaseDialog
        open={creating}
        onClose={() => setCreating(false)}
        onCreate={async (release) => void (await create(release))}
      />
    </Page>
  );
}
