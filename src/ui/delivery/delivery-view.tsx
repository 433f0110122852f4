'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Paper from '@mui/material/Paper';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import Link from 'next/link';
import { useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import { describeDestination, sourceSentence } from '../../core/deliver/describe';
import type { Receipt } from '../../core/deliver/receipt';
import { stageTitle } from '../../core/lane/schema';
import { edgeWords } from '../../core/sequence/edge-words';
import { type DeliverySummary, deliverySummarySchema } from '../../contracts/delivery';
import { api, send } from '../api';
import { ReadingRow } from '../kit/reading-row';
import { reading, readingWords } from '../../core/measure/reading';
import { StandingMark, verdictWords } from '../kit/standing';
import { dateAndTime, megabytes } from '../kit/format';
import { Page } from '../kit/page';
import { FIGURE_FACE } from '../theme/theme';
import { LoudnessCurve } from './loudness-curve';

const POLL_MS = 500;

function ReceiptSheet({ id, receipt }: { id: string; receipt: Receipt }) {
  const { file, measured, verdict, mix, made, lane } = receipt;
  return (
    <Paper variant="outlined" component="section" aria-label="Receipt" sx={{ p: 3, display: 'grid', gap: 2.5 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
        <Typography variant="h2">Receipt</Typography>
        <Typography color="textSecondary">
          Every figure was measured on the finished file. Also as{' '}
          {RECEIPT_FORMS.map(([form, title]) => (
            <Box
              key={form}
              component="a"
              href={`/api/deliveries/${id}/receipt?form=${form}`}
              download
              sx={{ color: 'inherit', ml: 0.75 }}
            >
              {title}
            </Box>
          ))}
        </Typography>
      </Box>
      <Box
        component="table"
        sx={{
          borderCollapse: 'collapse',
          width: '100%',
          '& th, & td': { textAlign: 'left', py: 0.75, borderBottom: 1, borderColor: 'divider', fontWeight: 'inherit' },
        }}
      >
        <Box component="thead" sx={{ color: 'text.secondary' }}>
          <tr>
            <th>Requirement</th>
            <th>Measured</th>
            <th>Required</th>
            <th>Verdict</th>
          </tr>
        </Box>
        <tbody>
          {verdict.requirements.map(({ title, measured: value, asked, standing, miss, advice, reason, source }) => (
            <tr key={title} title={[reason, source].filter(Boolean).join(' ')}>
              <th scope="row">{advice ? `${title} (advice)` : title}</th>
              <Box component="td" sx={{ fontFamily: FIGURE_FACE }}>
                {value}
              </Box>
              <Box component="td" sx={{ fontFamily: FIGURE_FACE, color: 'text.secondary' }}>
                {asked}
              </Box>
              <td>
                <StandingMark standing={standing} words={miss || undefined} />
              </td>
            </tr>
          ))}
        </tbody>
      </Box>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr 1fr' },
          gap: { xs: 2, sm: 5 },
          fontSize: 13,
        }}
      >
        <Box component="dl" sx={{ m: 0 }}>
          <ReadingRow name="Integrated" of={reading('loudness', measured.integratedLufs)} />
          <ReadingRow name="Momentary, highest" of={reading('loudness', measured.maxMomentaryLufs)} />
          <ReadingRow name="Short-term, highest" of={reading('loudness', measured.maxShortTermLufs)} />
          <ReadingRow name="Loudness range" of={reading('loudnessDifference', measured.rangeLu)} />
          <ReadingRow name="PLR" of={reading('loudnessDifference', measured.plrLu)} />
        </Box>
        <Box component="dl" sx={{ m: 0 }}>
          <ReadingRow name="True peak L / R" of={reading('truePeak', ...measured.truePeakDbtp)} />
          <ReadingRow name="Sample peak L / R" of={reading('samplePeak', ...measured.samplePeakDbfs)} />
          <ReadingRow name="Level at delivery" of={reading('gain', receipt.levelDb)} />
          {receipt.driveDb !== 0 && <ReadingRow name="Drive at delivery" of={reading('gain', receipt.driveDb)} />}
          <ReadingRow
            name="True-peak guard"
            of={receipt.guardDb > 0 ? reading('fineGain', -receipt.guardDb) : 'not needed'}
          />
          <ReadingRow
            name="Dither"
            of={receipt.dither === 'none' ? 'none, bits unchanged' : `${receipt.dither} to ${file.bits} bits`}
          />
        </Box>
        <Box component="dl" sx={{ m: 0 }}>
          <ReadingRow name="File" of={`${file.container}, ${megabytes(file.bytes)}`} />
          <ReadingRow name="Format" of={`${file.sampleRate / 1000} kHz${file.bits > 0 ? `, ${file.bits}-bit` : ''}`} />
          <ReadingRow name="Duration" of={reading('time', file.durationSeconds)} />
          {receipt.by.engineer && <ReadingRow name="Engineer" of={receipt.by.engineer} />}
          {receipt.by.studio && <ReadingRow name="Studio" of={receipt.by.studio} />}
          <ReadingRow name="Core" of={made.core} />
          <ReadingRow name="ffmpeg" of={made.ffmpeg} />
        </Box>
      </Box>
      {receipt.curve.shortTermLufs.length > 1 && <LoudnessCurve curve={receipt.curve} />}
      <Box
        component="dl"
        sx={{
          m: 0,
          fontSize: 12.5,
          '& dt': { color: 'text.secondary', mt: 0.5 },
          '& dd': { m: 0, fontFamily: FIGURE_FACE, overflowWrap: 'anywhere' },
        }}
      >
        <dt>SHA-256 of the file</dt>
        <dd>{file.sha256}</dd>
        <dt>Made from {mix.fileName}, SHA-256</dt>
        <dd>{mix.sha256}</dd>
        {lane.edges && (
          <>
            <dt>Edges in the mix</dt>
            <dd>{edgeWords(lane.edges)}</dd>
          </>
        )}
        <dt>Lane of “{receipt.version}”</dt>
        <dd>
          {lane.stages
            .filter(({ on }) => on)
            .map(stageTitle)
            .join(' → ') || 'no stages: the untouched mix'}
        </dd>
      </Box>
    </Paper>
  );
}

/** Forms in which a receipt is saved. */
const RECEIPT_FORMS = [
  ['pdf', 'PDF'],
  ['without-settings.pdf', 'PDF without settings'],
  ['csv', 'CSV'],
  ['json', 'JSON'],
] as const;

/** Starts a delivery again as it was ordered. */
function StartAgain({ id, onStarted }: { id: string; onStarted: () => void }) {
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <Button
      color="inherit"
      title={problem ?? undefined}
      onClick={() =>
        void send(`/api/deliveries/${id}/retry`, { method: 'POST' }).then(onStarted, (error: Error) =>
          setProblem(sentenceOf(error)),
        )
      }
    >
      {problem ?? 'Start it again'}
    </Button>
  );
}

/** What the other side says of the file: a simulated desk with meters of its own. */
function ReceivingDesk({ delivery, onAnswer }: { delivery: DeliverySummary; onAnswer: () => void }) {
  const { id, deskAnswer } = delivery;
  const [asking, setAsking] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const ask = async () => {
    setAsking(true);
    setProblem(null);
    try {
      await send(`/api/deliveries/${id}/desk`, { method: 'POST' });
      onAnswer();
    } catch (error) {
      setProblem(sentenceOf(error));
    } finally {
      setAsking(false);
    }
  };
  return (
    <Paper
      variant="outlined"
      component="section"
      aria-label="Receiving desk (simulated)"
      sx={{ p: 3, display: 'grid', gap: 1 }}
    >
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', gap: 2 }}>
        <Typography variant="h2">Receiving desk (simulated)</Typography>
        <Button variant="outlined" disabled={asking} onClick={() => void ask()}>
          {asking ? 'The desk is checking…' : deskAnswer ? 'Hand it over again' : 'Hand the file over'}
        </Button>
      </Box>
      <Typography color="textSecondary">
        A stand-in for whoever receives the file. It checks with other programs than those that made and measured it,
        and shares no code with them: what it rejects would have come back.
      </Typography>
      {problem && <Alert severity="error">{problem}</Alert>}
      {deskAnswer && (
        <Alert severity={deskAnswer.accepted ? 'success' : 'error'}>
          {deskAnswer.accepted ? 'Accepted' : 'Rejected'} on {dateAndTime(deskAnswer.at)}.
          {deskAnswer.reasons.length > 0 && (
            <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
              {deskAnswer.reasons.map((reason) => (
                <li key={reason}>{reason}</li>
              ))}
            </Box>
          )}
          {deskAnswer.measured && (
            <Box sx={{ color: 'text.secondary', fontSize: 12.5 }}>
              Its meters read {readingWords(reading('loudness', deskAnswer.measured.loudness))} and{' '}
              {readingWords(reading('truePeak', deskAnswer.measured.truePeak))}.
            </Box>
          )}
        </Alert>
      )}
    </Paper>
  );
}

function Outcome({ delivery, onChange }: { delivery: DeliverySummary; onChange: () => void }) {
  const { id, status, receipt, problem, heldBecause, progress } = delivery;
  if (status === 'waiting' || status === 'rendering') {
    return (
      <Box>
        <Typography sx={{ mb: 1 }}>
          {heldBecause ??
            (status === 'waiting'
              ? 'In the queue'
              : progress < 0.8
                ? 'Rendering the lane'
                : 'Measuring the finished file')}
        </Typography>
        <LinearProgress variant="determinate" value={progress * 100} aria-label="Delivery" />
        <Button
          sx={{ mt: 1 }}
          color="inherit"
          onClick={() => void send(`/api/deliveries/${id}`, { method: 'DELETE' }).catch(() => {})}
        >
          Cancel
        </Button>
      </Box>
    );
  }
  const again = <StartAgain id={id} onStarted={onChange} />;
  if (status === 'cancelled')
    return (
      <Alert severity="info" action={again}>
        This delivery was cancelled. Nothing was written.
      </Alert>
    );
  if (status === 'failed' || !receipt)
    return (
      <Alert severity="error" action={again}>
        {problem ?? 'The file could not be rendered.'}
      </Alert>
    );
  const meets = receipt.verdict.standing === 'meets';
  return (
    <Alert
      severity={meets ? 'success' : 'error'}
      action={
        <Box sx={{ display: 'flex', gap: 1 }}>
          <Button component="a" href={`/api/deliveries/${id}/receipt?form=pdf`} download color="inherit">
            Save receipt
          </Button>
          <Button component="a" href={`/api/deliveries/${id}/file`} download variant={meets ? 'contained' : 'outlined'}>
            {meets ? 'Download file' : 'Download anyway'}
          </Button>
        </Box>
      }
    >
      {meets
        ? 'The finished file meets its destination.'
        : `Failed: the finished file does not meet its destination (${verdictWords(receipt.verdict)}). ${receipt.verdict.remedies.join(' ')}`}
    </Alert>
  );
}

/** One delivery: how it goes, and the receipt of the finished file. */
export function DeliveryView({ deliveryId }: { deliveryId: string }) {
  const { data, error, isPending, refetch } = useQuery({
    queryKey: ['delivery', deliveryId],
    queryFn: () => api(deliverySummarySchema, `/api/deliveries/${deliveryId}`),
    refetchInterval: ({ state }) =>
      state.data?.status === 'waiting' || state.data?.status === 'rendering' ? POLL_MS : false,
  });
  return (
    <Page
      crumbs={[
        { title: 'Releases', href: '/' },
        ...(data
          ? [
              { title: data.releaseTitle, href: `/releases/${data.releaseId}` },
              { title: data.trackTitle, href: `/tracks/${data.trackId}` },
            ]
          : []),
        { title: data ? `Delivery of ${dateAndTime(data.createdAt)}` : 'Delivery' },
      ]}
      actions={
        data && (
          <Button component={Link} href={`/tracks/${data.trackId}`} variant="outlined">
            Back to the track
          </Button>
        )
      }
    >
      {isPending && <LinearProgress aria-label="Loading the delivery" />}
      {error && (
        <Alert severity="error" action={<Button onClick={() => void refetch()}>Try again</Button>}>
          {sentenceOf(error)}
        </Alert>
      )}
      {data && (
        <Box sx={{ display: 'grid', gap: 2 }}>
          <Box>
            <Typography variant="h1" sx={{ overflowWrap: 'anywhere' }}>
              {data.fileName}
            </Typography>
            <Typography color="textSecondary">
              {data.destination.name}: {describeDestination(data.destination)}. {sourceSentence(data.destination)}
            </Typography>
          </Box>
          <Outcome delivery={data} onChange={() => void refetch()} />
          {data.receipt && <ReceivingDesk delivery={data} onAnswer={() => void refetch()} />}
          {data.receipt && <ReceiptSheet id={data.id} receipt={data.receipt} />}
        </Box>
      )}
    </Page>
  );
}
