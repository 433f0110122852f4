'use client';

import CopyIcon from '@mui/icons-material/ContentCopyOutlined';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import EditIcon from '@mui/icons-material/EditOutlined';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import IconButton from '@mui/material/IconButton';
import LinearProgress from '@mui/material/LinearProgress';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import { shelfSchema, type PutOnShelf, type ShelfEntry } from '../../contracts/destination';
import { destinationSentence } from '../../core/deliver/describe';
import type { Destination } from '../../core/deliver/destination';
import { readyMade } from '../../core/deliver/ready-made';
import { api, send } from '../api';
import { Page } from '../kit/page';
import { offerUndo } from '../kit/undo-store';
import { DestinationDialog } from './destination-dialog';

const KEY = ['shelf'];

/** A name that nothing on the shelf has. */
function freeName(shelf: readonly ShelfEntry[], name: string): string {
  const taken = new Set(shelf.map(({ settings }) => settings.name));
  let free = `${name}, copy`;
  for (let n = 2; taken.has(free); n++) free = `${name}, copy ${n}`;
  return free;
}

function Press({ title, onPress, children }: { title: string; onPress: () => void; children: ReactNode }) {
  return (
    <Tooltip title={title}>
      <IconButton aria-label={title} onClick={onPress}>
        {children}
      </IconButton>
    </Tooltip>
  );
}

/** What a new destination starts as: as a ready-made one, whose source is not that of what is made of it. */
const BLANK: Destination = { ...readyMade('Streaming')!, source: '' };

/** What is edited: something on the shelf, or something new. */
interface Edited {
  id: string | null;
  settings: Destination;
  starts: boolean;
}

/** The shelf of destinations: what files must be, each as a sentence. */
export function DestinationsView() {
  const client = useQueryClient();
  const [problem, setProblem] = useState<string | null>(null);
  const [edited, setEdited] = useState<Edited | null>(null);
  const { data, error, isPending, refetch } = useQuery({
    queryKey: KEY,
    queryFn: () => api(shelfSchema, '/api/destinations'),
  });
  const renew = () => client.invalidateQueries({ queryKey: KEY });
  const attempt = async (work: () => Promise<unknown>) => {
    setProblem(null);
    await work().catch((caught: unknown) => setProblem(sentenceOf(caught)));
    await renew();
  };
  const put = (id: string | null, body: PutOnShelf) =>
    id === null
      ? send('/api/destinations', { method: 'POST', body })
      : send(`/api/destinations/${id}`, { method: 'PUT', body });
  const remove = ({ id, settings }: ShelfEntry) =>
    attempt(async () => {
      await send(`/api/destinations/${id}`, { method: 'DELETE' });
      const back = { method: 'POST', body: { kind: 'destination', id } } as const;
      offerUndo(`“${settings.name}” is deleted`, () => void attempt(() => send('/api/removed/restored', back)));
    });
  const copy = (settings: Destination, name: string) =>
    setEdited({ id: null, settings: { ...settings, name }, starts: false });

  return (
    <Page crumbs={[{ title: 'Releases', href: '/' }, { title: 'Destinations' }]}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', gap: 2 }}>
        <Typography variant="h1" sx={{ mb: 0.5 }}>
          Destinations
        </Typography>
        <Button
          variant="contained"
          disabled={!data}
          onClick={() => data && copy(BLANK, freeName(data, 'New destination').replace(', copy', ''))}
        >
          New destination
        </Button>
      </Box>
      <Typography color="textSecondary" sx={{ mb: 2 }}>
        What your files must be. A release keeps the values that it was given: what you change here is offered there.
      </Typography>
      {problem && (
        <Alert severity="error" sx={{ mb: 2 }}>
          {problem}
        </Alert>
      )}
      {isPending && <LinearProgress aria-label="Loading the destinations" />}
      {error && (
        <Alert severity="error" action={<Button onClick={() => void refetch()}>Try again</Button>}>
          {sentenceOf(error)}
        </Alert>
      )}
      <Box component="ul" aria-label="Destinations" sx={{ m: 0, p: 0, listStyle: 'none' }}>
        {data?.map((entry) => {
          const { id, settings, starts } = entry;
          return (
            <Box
              component="li"
              key={id}
              sx={{
                ...{
                  display: 'grid',
                  gridTemplateColumns: { xs: '1fr', sm: '1fr 210px 120px' },
                  columnGap: 2,
                  py: 1.25,
                },
                ...{ alignItems: 'center', borderTop: 1, borderColor: 'divider' },
              }}
            >
              <Box>
                <Typography variant="h2" sx={{ fontSize: 15 }}>
                  {settings.name}
                </Typography>
                <Box>{destinationSentence(settings)}</Box>
                <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>{settings.source || 'no source given'}</Box>
              </Box>
              <FormControlLabel
                control={
                  <Checkbox
                    size="small"
                    checked={starts}
                    slotProps={{ input: { 'aria-label': `New releases have ${settings.name}` } }}
                    onChange={(_, on) => void attempt(() => put(id, { settings, starts: on }))}
                  />
                }
                label="New releases have it"
              />
              <Box sx={{ whiteSpace: 'nowrap' }}>
                <Press title={`Edit ${settings.name}`} onPress={() => setEdited({ id, settings, starts })}>
                  <EditIcon fontSize="small" />
                </Press>
                <Press
                  title={`Duplicate ${settings.name}`}
                  onPress={() => copy(settings, freeName(data, settings.name))}
                >
                  <CopyIcon fontSize="small" />
                </Press>
                <Press title={`Delete ${settings.name}`} onPress={() => void remove(entry)}>
                  <DeleteIcon fontSize="small" />
                </Press>
              </Box>
            </Box>
          );
        })}
      </Box>
      {edited && (
        <DestinationDialog
          isNew={edited.id === null}
          settings={edited.settings}
          onSave={async (settings) => {
            await put(edited.id, { settings, starts: edited.starts });
            await renew();
          }}
          onClose={() => setEdited(null)}
        />
      )}
    </Page>
  );
}
