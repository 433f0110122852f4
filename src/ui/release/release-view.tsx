'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Paper from '@mui/material/Paper';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import Link from 'next/link';
import { useRef, useState } from 'react';
import type { Finding } from '../../core/measure/findings';
import { sendBackText } from '../../core/measure/send-back';
import { type MixSummary, releaseDetailSchema, type TrackSummary } from '../../contracts/release';
import { api, send as tell } from '../api';
import { DropZone } from '../releases/drop-zone';
import { useUploads, type UploadRow } from '../releases/uploads';
import { reading, readingWords } from '../../core/measure/reading';
import { audioFormat, clock, count } from '../kit/format';
import { Page } from '../kit/page';
import { FindingsList } from './findings-list';
import { IntakeFigures } from './intake-figures';
import { MixList } from './mix-list';
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

interface TrackActions {
  remove: () => void;
  removeMix: (mix: MixSummary) => void;
  chooseMix: (mix: MixSummary) => void;
  putIn: (file: File) => void;
}

function TrackCard({ track, uploads, actions }: { track: TrackSummary; uploads: UploadRow[]; actions: TrackActions }) {
  const { id, title, position, mix, mixes, deliveries } = track;
  const [open, setOpen] = useState(false);
  const only = mixes.length < 2;
  const report = mix?.status === 'ready' ? mix.report : null;
  return (
    <Paper variant="outlined" component="article" aria-label={title} sx={{ p: 2.5, display: 'grid', gap: 1.5 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1.5 }}>
        <Typography variant="h2">
          {position} · {title}
        </Typography>
        <Typography color="textSecondary" noWrap sx={{ flex: 1 }}>
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
      </Box>
      {uploads.map((row) => (
        <UploadStrip key={row.key} row={row} />
      ))}
      {mixes.map((each) => (
        <MixState key={each.id} mix={each} onRemove={only ? actions.remove : () => actions.removeMix(each)} />
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
  const [problem, setProblem] = useState<string | null>(null);
  const refresh = () => void client.invalidateQueries({ queryKey });
  const ask = (path: string, options: Parameters<typeof tell>[1]) =>
    void tell(path, options)
      .then(() => setProblem(null))
      .catch((caught: unknown) => setProblem((caught as Error).message))
      .finally(refresh);
  const actionsOn = ({ id }: TrackSummary): TrackActions => ({
    remove: () => ask(`/api/tracks/${id}`, { method: 'DELETE' }),
    removeMix: (mix) => ask(`/api/mixes/${mix.id}`, { method: 'DELETE' }),
    chooseMix: (mix) => ask(`/api/tracks/${id}/mix`, { method: 'PUT', body: { mixId: mix.id } }),
    putIn: (file) => void send(releaseId, [file], id),
  });

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
            <Typography variant="h1">{data.title}</Typography>
            <Typography color="textSecondary">
              {[data.artist, count(data.tracks.length, 'track')].filter(Boolean).join(', ')}
            </Typography>
          </Box>
          {problem && <Alert severity="error">{problem}</Alert>}
          {data.tracks.map((track) => (
            <TrackCard
              key={track.id}
              track={track}
              uploads={uploads.filter(({ trackId }) => trackId === track.id)}
              actions={actionsOn(track)}
            />
          ))}
          {uploads
            .filter(({ trackId }) => trackId === null)
            .map((row) => (
              <UploadStrip key={row.key} row={row} />
            ))}
          <DropZone
            title={data.tracks.length === 0 ? 'Drop the first mix here' : 'Drop more mixes here, one per track'}
            onFiles={(files) => void send(releaseId, files)}
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
