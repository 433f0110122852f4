'use client';

import Box from '@mui/material/Box';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import Link from 'next/link';
import type { LatestDelivery } from '../../contracts/delivery';
import { adjustedVerdict, adjustmentAmong } from '../../contracts/adjustment';
import type { MasterState as State, ReleaseDetail } from '../../contracts/release';
import type { Facts } from '../../core/deliver/facts';
import { reading } from '../../core/measure/reading';
import { DeliveryState } from '../kit/delivery-state';
import { dateAndTime } from '../kit/format';
import { ReadingRow } from '../kit/reading-row';
import { adjustedWords, StandingMark } from '../kit/standing';
import { OutlinePicture } from './outline-picture';

/** The master of a track without opening it: its waveform, its figures, and what it is for each destination. */
export function MasterState({
  title,
  master,
  facts,
  destinations,
  adjustments,
  deliveries,
}: {
  title: string;
  master: State;
  /** Null until it was measured. */
  facts: Facts | null;
  destinations: ReleaseDetail['destinations'];
  adjustments: ReleaseDetail['adjustments'];
  deliveries: LatestDelivery[];
}) {
  const { summary, checking, problem, versionId, versionName, step } = master;
  if (!summary || !facts) {
    return (
      <Box component="section" aria-label={`Master of ${title}`} sx={{ minHeight: 64 }}>
        <Typography color={problem ? 'error' : 'textSecondary'}>
          {problem ?? `Checking the whole track through “${versionName}”… ${Math.round((checking ?? 0) * 100)} %`}
        </Typography>
        {!problem && (
          <LinearProgress
            variant="determinate"
            value={(checking ?? 0) * 100}
            aria-label={`Checking the master of ${title}`}
          />
        )}
      </Box>
    );
  }
  return (
    <Box
      component="section"
      aria-label={`Master of ${title}`}
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', sm: 'minmax(0, 1fr) 200px minmax(0, 1fr)' },
        columnGap: 3,
        rowGap: 1,
        alignItems: 'start',
      }}
    >
      <OutlinePicture outlines={summary.outlines} title={title} />
      <Box component="dl" sx={{ m: 0, fontSize: 12.5 }}>
        <ReadingRow name="Loudness" of={reading('loudness', summary.integratedLufs)} />
        <ReadingRow name="True peak" of={reading('truePeak', summary.truePeakDbtp)} />
        <ReadingRow name="Loudness range" of={reading('loudnessDifference', summary.rangeLu)} />
      </Box>
      <Box
        component="table"
        sx={{
          borderCollapse: 'collapse',
          width: '100%',
          fontSize: 12.5,
          lineHeight: 1.55,
          '& th, & td': { font: 'inherit', lineHeight: 'inherit', p: 0, pr: 1.5, textAlign: 'left' },
        }}
      >
        <caption style={{ position: 'absolute', clipPath: 'inset(50%)' }}>{`Verdicts of ${versionName}`}</caption>
        <tbody>
          {destinations.map(({ id, settings }) => {
            const held = adjustedVerdict(settings, facts, adjustmentAmong(adjustments, versionId, id), step);
            const delivery = deliveries.find(({ destination }) => destination === settings.name);
            return (
              <tr key={id}>
                <Box component="th" scope="row" sx={{ color: 'text.secondary' }}>
                  {settings.name}
                </Box>
                <td>
                  <StandingMark standing={held.verdict.standing} words={adjustedWords(held)} />
                </td>
                <Box component="td" sx={{ whiteSpace: 'nowrap' }}>
                  {delivery && (
                    <Box
                      component={Link}
                      href={`/deliveries/${delivery.id}`}
                      title={`Delivered ${dateAndTime(delivery.createdAt)}`}
                      sx={{ color: 'inherit', display: 'inline-flex', alignItems: 'center', gap: 0.5 }}
                    >
                      delivery <DeliveryState {...delivery} />
                    </Box>
                  )}
                </Box>
              </tr>
            );
          })}
        </tbody>
      </Box>
    </Box>
  );
}
