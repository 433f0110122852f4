'use client';

import ErrorIcon from '@mui/icons-material/ReportOutlined';
import InfoIcon from '@mui/icons-material/InfoOutlined';
import WarningIcon from '@mui/icons-material/WarningAmberOutlined';
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { WEIGHT_TITLES, type Finding } from '../../core/measure/findings';

const MARKS = {
  fault: { Icon: ErrorIcon, color: 'error.main' },
  caution: { Icon: WarningIcon, color: 'warning.main' },
  note: { Icon: InfoIcon, color: 'text.secondary' },
} as const;

/** What intake found that matters, each as a sentence with advice. */
export function FindingsList({ findings }: { findings: Finding[] }) {
  if (findings.length === 0) {
    return <Typography color="textSecondary">Good to go: no clipping, no overs, headroom left.</Typography>;
  }
  return (
    <Box component="ul" aria-label="Findings" sx={{ m: 0, p: 0, listStyle: 'none', display: 'grid', gap: 1 }}>
      {findings.map(({ weight, title, sentence, advice }) => {
        const { Icon, color } = MARKS[weight];
        return (
          <Box component="li" key={title} sx={{ display: 'grid', gridTemplateColumns: '20px 1fr', gap: 1 }}>
            <Icon sx={{ color, fontSize: 19 }} aria-label={WEIGHT_TITLES[weight]} />
            <Box>
              <Box component="span" sx={{ fontWeight: 650, color }}>
                {title}.
              </Box>{' '}
              {sentence}{' '}
              <Box component="span" sx={{ color: 'text.secondary' }}>
                {advice}
              </Box>
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}
