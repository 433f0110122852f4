'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import { createdImageSchema, IMAGE_FORMATS, imageListSchema, type ImageSummary } from '../../contracts/image';
import type { ReleaseDetail } from '../../contracts/release';
import { destinationSentence } from '../../core/deliver/describe';
import { api, send } from '../api';
import { ChoiceField } from '../kit/choice-field';
import { dateAndTime } from '../kit/format';
import { StandingMark } from '../kit/standing';

const POLL_MS = 700;
const UNDER_WAY: readonly string[] = ['waiting', 'rendering'];

/** What comes with an image, by the form that is asked for. */
const SHEETS = [
  { form: 'cue', title: 'Cue sheet' },
  { form: 'pdf', title: 'Log, PDF' },
  { form: 'csv', title: 'Log, CSV' },
  { form: 'json', title: 'Receipt' },
] as const;

/** One image: how far it is, what its verdict says, and what can be saved of it. */
function ImageRow({ image, onRemove }: { image: ImageSummary; onRemove: () => void }) {
  const { id, fileName, status, progress, problem, heldBecause, receipt, createdAt } = image;
  const verdict = receipt?.receipt.verdict;
  const told = verdict?.requirements.filter(({ standing }) => standing === 'misses') ?? [];
  return (
    <Box component="article" aria-label={fileName} sx={{ borderTop: 1, borderColor: 'divider', py: 1 }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
        <Box sx={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere', fontWeight: 600 }}>{fileName}</Box>
        {verdict && <StandingMark standing={verdict.standing} />}
        <Box sx={{ color: 'text.secondary', fontSize: 12.5 }}>{dateAndTime(createdAt)}</Box>
      </Box>
      {UNDER_WAY.includes(status) && (
        <>
          <Typography color="textSecondary">
            {heldBecause ?? (status === 'waiting' ? 'Waiting for its turn' : 'Putting the release together')}
          </Typography>
          <LinearProgress variant="determinate" value={100 * progress} aria-label={`Progress of ${fileName}`} />
        </>
      )}
      {problem && <Alert severity="error">{problem}</Alert>}
      {told.map(({ title, miss, advice, measured, asked }) => (
        <Typography key={title} color={advice ? 'textSecondary' : 'error'} sx={{ fontSize: 13 }}>
          {title}: {measured}, {asked} {advice ? 'advised' : 'required'}; {miss}
        </Typography>
      ))}
      <Box sx={{ display: 'flex', flexWrap: 'wrap' }}>
        {status === 'finished' && (
          <>
            <Button component="a" href={`/api/images/${id}/file`} download>
              Image
            </Button>
            {SHEETS.map(({ form, title }) => (
              <Button key={form} component="a" href={`/api/images/${id}/sheet?form=${form}`} download color="inherit">
                {title}
              </Button>
            ))}
          </>
        )}
        <Box sx={{ flex: 1 }} />
        <Button color="inherit" onClick={onRemove}>
          {UNDER_WAY.includes(status) ? 'Cancel' : 'Delete'}
        </Button>
      </Box>
    </Box>
  );
}

/** Makes one continuous file of a release, with cue sheet and log, and lists those that were made. */
export function ImageDialog({ release, onClose }: { release: ReleaseDetail; onClose: () => void }) {
  const client = useQueryClient();
  const path = `/api/releases/${release.id}/images`;
  const queryKey = ['images', release.id];
  const { data, error } = useQuery({
    queryKey,
    queryFn: () => api(imageListSchema, path),
    refetchInterval: ({ state }) => (state.data?.some(({ status }) => UNDER_WAY.includes(status)) ? POLL_MS : false),
  });
  const { destinations } = release;
  const disc = destinations.find(
    ({ settings }) => settings.sampleRate.rule === 'fixed' && settings.wordLength.bits === 16,
  );
  const [destinationId, setDestinationId] = useState((disc ?? destinations.at(0))?.id ?? '');
  const [format, setFormat] = useState<(typeof IMAGE_FORMATS)[number]>('WAV');
  const [problem, setProblem] = useState<string | null>(null);
  const destination = destinations.find(({ id }) => id === destinationId)?.settings;
  const then = (work: Promise<unknown>) =>
    void work
      .then(() => setProblem(null))
      .catch((caught: Error) => setProblem(sentenceOf(caught)))
      .finally(() => void client.invalidateQueries({ queryKey }));
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Image of the release</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary">
          One continuous file with a cue sheet and a log: what a disc plant takes, and what keeps gaps and crossfades as
          they are. Levels are those at which each track is delivered to the destination.
        </Typography>
        {destination ? (
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, mt: 2, alignItems: 'center' }}>
            <ChoiceField
              label="For"
              value={destinationId}
              options={destinations.map(({ id, settings }) => ({ value: id, title: settings.name }))}
              onChange={setDestinationId}
            />
            <ChoiceField
              label="File"
              value={format}
              options={IMAGE_FORMATS.map((value) => ({ value, title: value }))}
              width={110}
              onChange={setFormat}
            />
            <Button
              variant="contained"
              onClick={() => then(api(createdImageSchema, path, { method: 'POST', body: { destinationId, format } }))}
            >
              Make the image
            </Button>
            <Typography color="textSecondary" sx={{ flexBasis: '100%', fontSize: 13 }}>
              {destinationSentence(destination)}
            </Typography>
          </Box>
        ) : (
          <Alert severity="info" sx={{ mt: 2 }}>
            Give the release a destination first: it says which sample rate and word length the image has.
          </Alert>
        )}
        {(problem ?? error) && (
          <Alert severity="error" sx={{ mt: 1.5 }}>
            {problem ?? (error && sentenceOf(error))}
          </Alert>
        )}
        <Box sx={{ mt: 2 }}>
          {data?.map((image) => (
            <ImageRow
              key={image.id}
              image={image}
              onRemove={() => then(send(`/api/images/${image.id}`, { method: 'DELETE' }))}
            />
          ))}
        </Box>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
