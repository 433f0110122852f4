'use client';

import Box from '@mui/material/Box';
import type { MixSummary } from '../../contracts/release';
import type { IntakeReport } from '../../core/measure/intake-report';
import { intakeRows } from '../../core/measure/intake-rows';
import { ReadingRow } from '../kit/reading-row';

/** Every figure that intake measured of a mix. */
export function IntakeFigures({ source, report }: { source: MixSummary['source']; report: IntakeReport }) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(4, 1fr)', gap: 4, fontSize: 12.5 }}>
      {intakeRows(source, report).map((rows, i) => (
        <Box component="dl" key={i} sx={{ m: 0 }}>
          {rows.map(([name, of]) => (
            <ReadingRow key={name} name={name} of={of} />
          ))}
        </Box>
      ))}
    </Box>
  );
}
