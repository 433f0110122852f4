import { newStage, stageTitle, type Lane, type Stage } from '../../core/lane/schema';
import { describe } from '../../core/stages/definition';
import { clipperSettings } from '../../core/stages/clipper/settings';
import { compressorSettings } from '../../core/stages/compressor/settings';
import { limiterSettings } from '../../core/stages/limiter/settings';
import { STAGES } from '../../core/stages/registry';
import type { Measurement } from './measurement';

/** Versions count as equally loud within this, in LU. */
export const EQUAL_LU = 0.1;
/** Closer is not looked for. */
const CLOSE_LU = 0.04;
const MOST_PASSES = 9;

/** What a version is at the loudness that all are compared at. */
export interface LoudVersion {
  lane: Lane;
  /** dB of drive that it took beyond what the version has, and the stage that took it. */
  driveDb: number;
  drivenStage: string;
  /** Whether the loudness was reached. */
  reached: boolean;
  integratedLufs: number;
  truePeakDbtp: number;
  plrLu: number;
  rangeLu: number;
  /** dB of all that was added to the loudest passage, against the music; −infinity for nothing. */
  distortionDb: number;
}

interface Driven {
  lane: Lane;
  title: string;
}

const DRIVES = {
  limiter: { name: 'inputGainDb', quantity: describe(limiterSettings.shape.inputGainDb) },
  clipper: { name: 'inputGainDb', quantity: describe(clipperSettings.shape.inputGainDb) },
  compressor: { name: 'makeupDb', quantity: describe(compressorSettings.shape.makeupDb) },
} as const;
type DrivenKind = keyof typeof DRIVES;

const isDriven = (kind: Stage['kind']): kind is DrivenKind => kind in DRIVES;

/** The stage that takes more level: the first of the clippers and limiters at the end of the lane, else the last compressor. */
function drivenIndex(stages: readonly Stage[]): number {
  const loud = ({ kind }: Stage) => kind === 'clipper' || kind === 'limiter';
  let first = -1;
  for (let i = stages.length - 1; i >= 0; i--) {
    if (!stages[i].on) continue;
    if (!loud(stages[i])) break;
    first = i;
  }
  return first >= 0 ? first : stages.findLastIndex(({ kind, on }) => on && kind === 'compressor');
}

/** A lane with more or less drive into its loud end; with nothing to drive, a trim at its end. */
function driven(lane: Lane, driveDb: number): Driven {
  const index = drivenIndex(lane.stages);
  const stage = lane.stages[index];
  if (!stage || !isDriven(stage.kind)) {
    const trim = newStage('trim', 'equal-loudness');
    if (trim.kind === 'trim') trim.settings.gainDb = Math.max(-24, Math.min(24, driveDb));
    return { lane: { ...lane, stages: [...lane.stages, trim] }, title: STAGES.trim.title };
  }
  const { name, quantity } = DRIVES[stage.kind];
  const value = (stage.settings as Record<string, unknown>)[name] as number;
  const held = Math.max(quantity.min, Math.min(quantity.max, value + driveDb));
  const changed = { ...stage, settings: { ...stage.settings, [name]: held } } as Stage;
  return {
    lane: { ...lane, stages: lane.stages.map((each, i) => (i === index ? changed : each)) },
    title: `${stageTitle(stage)}, ${quantity.title.toLowerCase()}`,
  };
}

function distortionOf({ distortions }: Measurement): number {
  const power = distortions.reduce((sum, bend) => sum + 10 ** ((bend?.distortion?.totalDb ?? -Infinity) / 10), 0);
  return power > 0 ? 10 * Math.log10(power) : -Infinity;
}

/** Drives a lane until its master has a loudness in LUFS, by full passes that `run` makes. */
export async function atLoudness(
  lane: Lane,
  targetLufs: number,
  run: (lane: Lane) => Promise<Measurement>,
): Promise<LoudVersion> {
  let drive = 0;
  let previous: { drive: number; lufs: number } | null = null;
  let best: { off: number; version: LoudVersion } | null = null;
  for (let i = 0; i < MOST_PASSES; i++) {
    const { lane: tried, title } = driven(lane, drive);
    const result = await run(tried);
    const { integratedLufs, truePeakDbtp, plrLu, rangeLu } = result.master;
    const off = Math.abs(targetLufs - integratedLufs);
    if (!best || off < best.off) {
      const figures = { integratedLufs, truePeakDbtp, plrLu, rangeLu, distortionDb: distortionOf(result) };
      const reached = off <= EQUAL_LU;
      best = { off, version: { lane: tried, driveDb: drive, drivenStage: title, reached, ...figures } };
    }
    if (off <= CLOSE_LU || !Number.isFinite(integratedLufs)) break;
    // A dB of drive gives less than a dB of loudness where peaks are held; how much less the last two passes tell.
    const slope: number =
      previous && Math.abs(drive - previous.drive) > 1e-3
        ? (integratedLufs - previous.lufs) / (drive - previous.drive)
        : 1;
    const step: number = (targetLufs - integratedLufs) / Math.max(0.15, Math.min(1.5, slope));
    previous = { drive, lufs: integratedLufs };
    drive += Math.max(-8, Math.min(8, step));
  }
  return best!.version;
}
