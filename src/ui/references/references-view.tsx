'use client';

import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import LinearProgress from '@mui/material/LinearProgress';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import { changeReferenceSchema, type Reference, referenceListSchema, referenceSchema } from '../../contracts/reference';
import { reading, readingText, readingUnit } from '../../core/measure/reading';
import { api, send, upload } from '../api';
import { EditableTitle } from '../kit/editable-title';
import { clock } from '../kit/format';
import { Page } from '../kit/page';
import { offerUndo } from '../kit/undo-store';
import { FIGURE_FACE } from '../theme/theme';
import { DropZone } from '../releases/drop-zone';

const KEY = ['references'];
/** While something is measured the list is asked for again after so many ms. */
const AGAIN_MS = 1000;

/** What was measured of a reference, or how far that is. */
function Figures({ reference: { report, refusal, progress } }: { reference: Reference }) {
  if (refusal) return <Box sx={{ color: 'error.main' }}>{refusal}</Box>;
  if (!report) return <LinearProgress variant="determinate" value={100 * progress} aria-label="Measuring" />;
  const figures = [
    ['loudness', reading('loudness', report.integratedLufs)],
    ['true peak', reading('truePeak', report.truePeakDbtp)],
    ['PLR', reading('loudnessDifference', report.plrLu)],
    ['range', reading('loudnessDifference', report.rangeLu)],
  ] as const;
  return (
    <Box
      component="dl"
      sx={{
        ...{ m: 0, display: 'grid', gridTemplateColumns: 'repeat(auto-fill, 112px)', gap: 2 },
        '& dt': { fontSize: 12, color: 'text.secondary' },
        '& dd': { m: 0 },
      }}
    >
      {figures.map(([name, figure]) => (
        <Box key={name}>
          <dt>{name}</dt>
          <Box component="dd" sx={{ fontFamily: FIGURE_FACE }}>
            {readingText(figure)} {readingUnit(figure)}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

/** The shelf of references: files to compare masters with, never delivered. */
export function ReferencesView() {
  const client = useQueryClient();
  const [problem, setProblem] = useState<string | null>(null);
  const [sending, setSending] = useState<{ name: string; share: number } | null>(null);
  const { data, error, isPending, refetch } = useQuery({
    queryKey: KEY,
    queryFn: () => api(referenceListSchema, '/api/references'),
    refetchInterval: ({ state }) =>
      state.data?.some(({ status }) => status === 'waiting' || status === 'measuring') ? AGAIN_MS : false,
  });
  const attempt = async (work: () => Promise<unknown>) => {
    setProblem(null);
    await work().catch((caught: unknown) => setProblem(sentenceOf(caught)));
    await client.invalidateQueries({ queryKey: KEY });
  };
  const remove = (id: string, title: string) =>
    attempt(async () => {
      await send(`/api/references/${id}`, { method: 'DELETE' });
      const back = { method: 'POST', body: { kind: 'reference', id } } as const;
      offerUndo(`“${title}” is deleted`, () => void attempt(() => send('/api/removed/restored', back)));
    });
  const add = (files: File[]) =>
    attempt(async () => {
      for (const file of files) {
        setSending({ name: file.name, share: 0 });
        const id = await upload(file, (share) => setSending({ name: file.name, share })).done.finally(() =>
          setSending(null),
        );
        await api(referenceSchema, '/api/references', { method: 'POST', body: { upload: id, name: file.name } });
        await client.invalidateQueries({ queryKey: KEY });
      }
    });
  return (
    <Page crumbs={[{ title: 'Releases', href: '/' }, { title: 'References' }]}>
      <Typography variant="h1" sx={{ mb: 0.5 }}>
        References
      </Typography>
      <Typography color="textSecondary" sx={{ mb: 3 }}>
        Records that you know well, to compare masters with at equal loudness. They stay yours: nothing of them is ever
        delivered. In a track they are candidates: press + in the listening bar, also to compare figures.
      </Typography>
      <DropZone
        title="Drop references here"
        label="References to upload"
        hint="Anything that can be decoded, MP3 and AAC too, up to 60 minutes each."
        onFiles={(files) => void add(files)}
      />
      {sending && (
        <Box sx={{ mt: 1 }}>
          Sending {sending.name}
          <LinearProgress variant="determinate" value={100 * sending.share} aria-label={`Sending ${sending.name}`} />
        </Box>
      )}
      {problem && (
        <Alert severity="error" sx={{ mt: 2 }}>
          {problem}
        </Alert>
      )}
      {isPending && <LinearProgress aria-label="Loading the references" sx={{ mt: 2 }} />}
      {error && (
        <Alert severity="error" sx={{ mt: 2 }} action={<Button onClick={() => void refetch()}>Try again</Button>}>
          {sentenceOf(error)}
        </Alert>
      )}
      <Box component="ul" aria-label="References" sx={{ mt: 3, p: 0, listStyle: 'none' }}>
        {data?.map((reference) => {
          const { id, title, source } = reference;
          return (
            <Box
              component="li"
              key={id}
              sx={{
                ...{ display: 'flex', alignItems: 'center', flexWrap: 'wrap', gap: 2, py: 1.5 },
                ...{ borderTop: 1, borderColor: 'divider' },
              }}
            >
              <Box sx={{ width: 300, minWidth: 0 }}>
                <EditableTitle
                  variant="h2"
                  title={title}
                  schema={changeReferenceSchema.shape.title}
                  onRename={(next) =>
                    void attempt(() => send(`/api/references/${id}`, { method: 'PATCH', body: { title: next } }))
                  }
                />
                <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>
                  {source.container}, {source.sampleRate / 1000} kHz, {clock(source.durationSeconds, 0)}
                </Box>
              </Box>
              <Box sx={{ flex: '1 1 240px' }}>
                <Figures reference={reference} />
              </Box>
              <Tooltip title="Take this reference off the shelf">
                <IconButton aria-label={`Delete ${title}`} onClick={() => void remove(id, title)}>
                  <DeleteIcon fontSize="small" />
                </IconButton>
              </Tooltip>
            </Box>
          );
        })}
      </Box>
    </Page>
  );
}
