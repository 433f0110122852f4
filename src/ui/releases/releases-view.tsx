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
import Paper from '@mui/material/Paper';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useInfiniteQuery } from '@tanstack/react-query';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import {
  createdReleaseSchema,
  type NewRelease,
  newReleaseSchema,
  type ReleasePage,
  releasePageSchema,
} from '../../contracts/release';
import { api } from '../api';
import { count } from '../kit/format';
import { Page } from '../kit/page';
import { DropZone } from './drop-zone';
import { useUploads } from './uploads';

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
    onCreate({ artist: '', ...values }).catch((error: unknown) =>
      setError('title', { message: (error as Error).message }),
    ),
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
  const send = useUploads((store) => store.send);
  const { data, error, isPending, refetch, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery({
    queryKey: ['releases'],
    initialPageParam: null as string | null,
    queryFn: ({ pageParam }) =>
      api(releasePageSchema, `/api/releases${pageParam === null ? '' : `?after=${pageParam}`}`),
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
      const id = await create({
        title: files[0].name.replace(/\.[^.]+$/, '').slice(0, 120) || 'New release',
        artist: '',
      });
      void send(id, files);
    } catch (caught) {
      setProblem((caught as Error).message);
    }
  };

  return (
    <Page
      crumbs={[{ title: 'Releases' }]}
      actions={
        <Button variant="outlined" onClick={() => setCreating(true)}>
          New release
        </Button>
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
      <Box component="section" aria-label="Releases" sx={{ mt: 3, display: 'grid', gap: 1 }}>
        {isPending && <LinearProgress aria-label="Loading the releases" />}
        {error && (
          <Alert severity="error" action={<Button onClick={() => void refetch()}>Try again</Button>}>
            {error.message}
          </Alert>
        )}
        {releases.map(({ id, title, artist, tracks, deliveries, createdAt }) => (
          <Paper
            key={id}
            variant="outlined"
            component={Link}
            href={`/releases/${id}`}
            sx={{
              ...{
                px: 2.5,
                py: 1.75,
                display: 'grid',
                gridTemplateColumns: '1fr 90px 120px 110px',
                alignItems: 'center',
                gap: 2,
              },
              ...{ color: 'inherit', textDecoration: 'none', '&:hover': { borderColor: 'text.secondary' } },
            }}
          >
            <Box sx={{ minWidth: 0 }}>
              <Typography variant="h2" noWrap>
                {title}
              </Typography>
              <Typography color="textSecondary" noWrap>
                {artist || 'No artist'}
              </Typography>
            </Box>
            <span>{count(tracks, 'track')}</span>
            <span>{count(deliveries, 'delivery', 'deliveries')}</span>
            <Typography component="span" color="textSecondary" sx={{ textAlign: 'right' }}>
              {new Date(createdAt).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })}
            </Typography>
          </Paper>
        ))}
        {hasNextPage && (
          <Button sx={{ justifySelf: 'center' }} disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
            Show older releases
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
