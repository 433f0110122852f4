'use client';

import Box from '@mui/material/Box';
import type { DeliveryStatus } from '../../contracts/delivery';
import type { Standing } from '../../core/deliver/requirement';
import { StandingMark } from '../kit/standing';

/** How far a delivery is, or what its receipt says. */
export function DeliveryState({
  status,
  standing,
  progress,
}: {
  status: DeliveryStatus;
  standing: Standing | null;
  progress: number;
}) {
  if (standing) return <StandingMark standing={standing} />;
  if (status === 'failed') return <StandingMark standing="misses" words="failed" />;
  return (
    <Box component="span" sx={{ color: 'text.secondary' }}>
      {status === 'rendering' ? `${Math.round(progress * 100)} %` : status}
    </Box>
  );
}
