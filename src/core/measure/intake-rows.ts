import { clock, figure } from './figure';
import type { IntakeReport } from './intake-report';
import { reading, type Reading } from './reading';

/** What is known of a mix's file. */
interface IntakeSource {
  container: string;
  /** Hz */
  sampleRate: number;
  bits: number;
  float?: boolean;
}

/** A figure of intake by its name: a reading, or words. */
export type IntakeRow = readonly [name: string, of: Reading | string];

/** Every figure that intake measured of a mix, in four groups: the file, loudness, peaks, what may be wrong. */
export function intakeRows(source: IntakeSource, report: IntakeReport): IntakeRow[][] {
  const { loudest, spectrumEndHz } = report;
  const { sampleRate, bits, float, container } = source;
  const offset = Math.max(...report.dcOffset.map(Math.abs));
  const seconds = (frame: number) => clock(frame / sampleRate);
  return [
    [
      ['Container', container],
      ['Format', `${sampleRate / 1000} kHz, ${bits}-bit${float ? ' float' : ''}`],
      ['Bits in use', report.bitsUsed === null ? 'float' : String(report.bitsUsed)],
      ['Duration', reading('time', report.durationSeconds)],
      ['Spectrum', spectrumEndHz === null ? 'full range' : `stops at ${figure(spectrumEndHz / 1000)} kHz`],
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
}
