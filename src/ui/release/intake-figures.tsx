'use client';

import Box from '@mui/material/Box';
import type { MixSummary } from '../../contracts/release';
import type { IntakeReport } from '../../core/measure/intake-report';
import { reading, type Reading } from '../../core/measure/reading';
import { audioFormat, clock, hertz } from '../kit/format';
import { ReadingRow } from '../kit/reading-row';

/** Every figure that intake measured of a mix. */
export function IntakeFigures({ source, report }: { source: MixSummary['source']; report: IntakeReport }) {
  const { loudest } = report;
  const offset = Math.max(...report.dcOffset.map(Math.abs));
  const seconds = (frame: number) => clock(frame / source.sampleRate);
  const columns: [name: string, of: Reading | string][][] = [
    [
      ['Container', source.container],
      ['Format', audioFormat(source)],
      ['Bits in use', report.bitsUsed === null ? 'float' : String(report.bitsUsed)],
      ['Duration', reading('time', report.durationSeconds)],
      ['Spectrum', report.spectrumEndHz === null ? 'full range' : `stops at ${hertz(report.spectrumEndHz)}Hz`],
    ],
    [
      ['Integrated', reading('loudness', report.integratedLufs)],
      ['Momentary, highest', reading('loudness', report.maxMomentaryLufs)],
      ['Short-term, highest', reading('loudness', report.maxShortTermLufs)],
      ['Loudness range', reading('loudnessDifference', report.rangeLu)],
    ],
    [
      ['True peak L / R', reading('truePeak', ...report.truePeakDbtp)],
      ['Sample peak L / R', reading('samplePeak', ...report.samplePeakDbfs)],
      ['Headroom', reading('level', report.headroomDb)],
      ['PLR', reading('loudnessDifference', report.plrLu)],
      ['Left vs right', report.balanceDb === null ? 'one channel only' : reading('gain', report.balanceDb)],
    ],
    [
      ['Clipped runs', reading('count', report.clippedRuns)],
      ['Overs', reading('frames', report.overs)],
      ['DC offset', reading('fineShare', 100 * offset)],
      ['Loudest passage', `${seconds(loudest.start)}–${seconds(loudest.end)} min`],
      ['Correlation', reading('correlation', report.correlation)],
      ['Correlation below 120 Hz', reading('correlation', report.bassCorrelation)],
      ['Silence, head / tail', reading('seconds', report.headSeconds, report.tailSeconds)],
    ],
  ];
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(4, 1fr)', gap: 4, fontSize: 12.5 }}>
      {columns.map((rows, i) => (
        <Box component="dl" key={i} sx={{ m: 0 }}>
          {rows.map(([name, of]) => (
            <ReadingRow key={name} name={name} of={of} />
          ))}
        </Box>
      ))}
    </Box>
  );
}
