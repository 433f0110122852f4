import { Kernels } from '../../kernels/host';
import { BalanceMeter, type BalanceBand } from '../../measure/balance';
import { bassPeaksDb } from '../../measure/bass-peaks';
import type { Finding } from '../../measure/findings';
import { louder, type IntakeReport } from '../../measure/intake-report';
import { sibilanceOf, type SibilanceReading } from '../../measure/sibilance';

/** What a first draft is made from. Levels in dB, loudness in LUFS. */
export interface MixReading {
  /** The whole mix. */
  integratedLufs: number;
  maxMomentaryLufs: number;
  maxShortTermLufs: number;
  truePeakDbtp: number;
  rangeLu: number;
  /** By third-octaves. */
  balance: readonly BalanceBand[];
  sibilance: SibilanceReading | null;
  /** The loudest passage. */
  passageBalance: readonly BalanceBand[];
  /** dB by which its peaks are lower without the bass. */
  bassPeaksDb: number;
  /** Why the mix should rather be sent back. */
  faults: readonly Finding[];
}

/** Reads a mix: planar channels, `sampleRate` in Hz. `report` is what intake found. Null where there is no sound. */
export function readMix(
  left: Float32Array,
  right: Float32Array,
  sampleRate: number,
  report: Pick<
    IntakeReport,
    'integratedLufs' | 'maxMomentaryLufs' | 'maxShortTermLufs' | 'truePeakDbtp' | 'rangeLu' | 'loudest' | 'findings'
  >,
): MixReading | null {
  const { integratedLufs, maxMomentaryLufs, maxShortTermLufs, rangeLu, findings } = report;
  const truePeakDbtp = louder(report.truePeakDbtp);
  if (integratedLufs === null || truePeakDbtp === null) return null;
  const { start, end } = report.loudest;
  const [passageLeft, passageRight] = [left.subarray(start, end), right.subarray(start, end)];
  const kernels = new Kernels();
  const whole = new BalanceMeter(sampleRate, kernels);
  whole.add(left, right);
  const passage = new BalanceMeter(sampleRate, kernels);
  passage.add(passageLeft, passageRight);
  return {
    integratedLufs,
    maxMomentaryLufs: maxMomentaryLufs ?? integratedLufs,
    maxShortTermLufs: maxShortTermLufs ?? integratedLufs,
    truePeakDbtp,
    rangeLu,
    balance: whole.result(),
    sibilance: sibilanceOf(left, right, sampleRate),
    passageBalance: passage.result(),
    bassPeaksDb: bassPeaksDb(passageLeft, passageRight, sampleRate),
    faults: findings.filter(({ weight }) => weight === 'fault'),
  };
}
