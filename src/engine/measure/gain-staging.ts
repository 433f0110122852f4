import { stageTitle, type Lane } from '../../core/lane/schema';
import type { JointReading, Measurement } from './measurement';

/** Loudness and peaks at a joint, with the distance of the peaks from the loudness. */
export interface JointFigures {
  integratedLufs: number;
  truePeakDbtp: number;
  plrLu: number;
}

/** What one stage did to the level. */
export interface GainStagingRow {
  stage: string;
  id: string;
  on: boolean;
  into: JointFigures;
  out: JointFigures;
  /** LU added to the loudness, and to the distance of the peaks: below 0 for what was taken. */
  loudnessLu: number;
  plrLu: number;
  latencyMs: number;
  /** Factors while listening and for the delivery; null for a stage that does not oversample. */
  oversampling: { listening: number; delivery: number } | null;
}

const figures = ({ integratedLufs, truePeakDbtp }: JointReading): JointFigures => ({
  integratedLufs,
  truePeakDbtp,
  plrLu: truePeakDbtp - integratedLufs,
});

/** Stage by stage what a lane did to the level, from its measurement; `sampleRate` in Hz. */
export function gainStaging(
  { stages }: Lane,
  { joints, latencies }: Pick<Measurement, 'joints' | 'latencies'>,
  sampleRate: number,
): GainStagingRow[] {
  return stages.map((stage, i) => {
    const { id, on, settings } = stage;
    const into = figures(joints[i]);
    const out = figures(joints[i + 1]);
    return {
      stage: stageTitle(stage),
      id,
      on,
      into,
      out,
      loudnessLu: out.integratedLufs - into.integratedLufs,
      plrLu: out.plrLu - into.plrLu,
      latencyMs: (1000 * (latencies[i + 1] - latencies[i])) / sampleRate,
      oversampling: 'oversampling' in settings ? settings.oversampling : null,
    };
  });
}

/** The stage that took most of the peaks' distance, when it took at least 0.5 LU; null otherwise. */
export function punchTaker(rows: readonly GainStagingRow[]): GainStagingRow | null {
  const most = rows.reduce<GainStagingRow | null>((a, b) => (a === null || b.plrLu < a.plrLu ? b : a), null);
  return most && most.plrLu <= -0.5 ? most : null;
}

/** The same rows as a table of text, its head first: for a file. */
export function gainStagingTable(rows: readonly GainStagingRow[]): string[][] {
  const number = (value: number) => (Number.isFinite(value) ? value.toFixed(2) : '');
  return [
    [
      ...['Stage', 'On', 'In LUFS', 'In dBTP', 'In PLR LU', 'Out LUFS', 'Out dBTP', 'Out PLR LU'],
      ...['Loudness change LU', 'PLR change LU', 'Latency ms', 'Oversampling listening', 'Oversampling delivery'],
    ],
    ...rows.map(({ stage, on, into, out, loudnessLu, plrLu, latencyMs, oversampling }) => [
      stage,
      on ? 'yes' : 'no',
      ...[into, out].flatMap((joint) => [joint.integratedLufs, joint.truePeakDbtp, joint.plrLu].map(number)),
      ...[loudnessLu, plrLu, latencyMs].map(number),
      ...[oversampling?.listening, oversampling?.delivery].map((factor) => (factor === undefined ? '' : `${factor}`)),
    ]),
  ];
}
