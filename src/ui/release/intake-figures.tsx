'use client';

import Box from '@mui/material/Box';
import type { MixSummary } from '../../contracts/release';
import type { IntakeReport } from '../../core/measure/intake-report';
import { Reading } from '../kit/reading';
import { audioFormat, change, clock, figureOr, hertz } from '../kit/format';

/** Every figure that intake measured of a mix. */
export function IntakeFigures({ source, report }: { source: MixSummary['source']; report: IntakeReport }) {
  const { loudest } = report;
  const [left, right] = report.truePeakDbtp;
  const [leftSample, rightSample] = report.samplePeakDbfs;
  const offset = Math.max(...report.dcOffset.map(Math.abs));
  const columns: [string, string, string?][][] = [
    [
      ['Container', source.container],
      ['Format', audioFormat(source)],
      ['Bits in use', report.bitsUsed === null ? 'float' : String(report.bitsUsed)],
      ['Duration', clock(report.durationSeconds, 1), 'min'],
      ['Spectrum', report.spectrumEndHz === null ? 'full range' : `stops at ${hertz(report.spectrumEndHz)}Hz`],
    ],
    [
      ['Integrated', figureOr(report.integratedLufs), 'LUFS'],
      ['Momentary, highest', figureOr(report.maxMomentaryLufs), 'LUFS'],
      ['Short-term, highest', figureOr(report.maxShortTermLufs), 'LUFS'],
      ['Loudness range', figureOr(report.rangeLu), 'LU'],
    ],
    [
      ['True peak L / R', `${figureOr(left)} / ${figureOr(right)}`, 'dBTP'],
      ['Sample peak L / R', `${figureOr(leftSample)} / ${figureOr(rightSample)}`, 'dBFS'],
      ['Headroom', figureOr(report.headroomDb), 'dB'],
      ['PLR', figureOr(report.plrLu), 'LU'],
      ['Left vs right', report.balanceDb === null ? 'one channel only' : change(report.balanceDb), 'dB'],
    ],
    [
      ['Clipped runs', String(report.clippedRuns)],
      ['Overs', String(report.overs), 'frames'],
      ['DC offset', `${(offset * 100).toFixed(2)}`, '%'],
      [
        'Loudest passage',
        `${clock(loudest.start / source.sampleRate)}–${clock(loudest.end / source.sampleRate)}`,
        'min',
      ],
      ['Correlation', figureOr(report.correlation, '–', 2)],
      ['Correlation below 120 Hz', figureOr(report.bassCorrelation, '–', 2)],
      ['Silence, head / tail', `${figureOr(report.headSeconds)} / ${figureOr(report.tailSeconds)}`, 's'],
    ],
  ];
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(4, 1fr)', gap: 4, fontSize: 12.5 }}>
      {columns.map((rows, i) => (
        <Box component="dl" key={i} sx={{ m: 0 }}>
          {rows.map(([name, value, unit]) => (
            <Reading key={name} name={name} value={value} unit={unit} />
          ))}
        </Box>
      ))}
    </Box>
  );
}
