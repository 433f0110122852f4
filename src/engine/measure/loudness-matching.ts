import { newStage, stageTitle, type Lane, type Stage } from '../../core/lane/schema';
import { numberSetting, settingSchema, withSetting } from '../../core/lane/stage-edits';
import { describe } from '../../core/stages/setting';
import { STAGES, traitsOf } from '../../core/stages/registry';
import { addedDistortionDb } from './added-distortion';
import type { Measurement } from './measurement';

/** Versions count as equally loud within this, in LU. */
export const EQUAL_LU = 0.1;
/** Close enough. */
const CLOSE_LU = 0.04;
const MOST_TRIES = 9;

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

/** What a stage offers to take level; undefined for one that takes none, or is off. */
function driveOf(stage: Stage) {
  return stage.on ? traitsOf<Stage>(stage).drive : undefined;
}

/**
 * The stage that takes more level: the first of those with a ceiling at the end of the lane, else the last with a
 * makeup.
 */
function drivenIndex(stages: readonly Stage[]): number {
  let first = -1;
  for (let i = stages.length - 1; i >= 0; i--) {
    if (!stages[i].on) continue;
    if (driveOf(stages[i])?.into !== 'ceiling') break;
    first = i;
  }
  return first >= 0 ? first : stages.findLastIndex((stage) => driveOf(stage)?.into === 'makeup');
}

/** A lane with more or less drive into its loud end; with nothing to drive, a trim at its end. */
function driven(lane: Lane, driveDb: number): Driven {
  const index = drivenIndex(lane.stages);
  const stage = lane.stages[index];
  const drive = stage && driveOf(stage);
  if (!drive) {
    const trim = newStage('trim', 'equal-loudness');
    trim.settings.gainDb = Math.max(-24, Math.min(24, driveDb));
    return { lane: { ...lane, stages: [...lane.stages, trim] }, title: STAGES.trim.title };
  }
  const quantity = describe(settingSchema(stage, drive.setting));
  const value = numberSetting(stage, drive.setting);
  const held = Math.max(quantity.min, Math.min(quantity.max, value + driveDb));
  return {
    lane: {
      ...lane,
      stages: lane.stages.map((each, i) => (i === index ? withSetting(stage, drive.setting, held) : each)),
    },
    title: `${stageTitle(stage)}, ${quantity.title.toLowerCase()}`,
  };
}

/** Drives a lane until its master has a loudness in LUFS, measured by `run`. */
export async function atLoudness(
  lane: Lane,
  targetLufs: number,
  run: (lane: Lane) => Promise<Measurement>,
): Promise<LoudVersion> {
  let drive = 0;
  let previous: { drive: number; lufs: number } | null = null;
  let best: { off: number; version: LoudVersion } | null = null;
  for (let i = 0; i < MOST_TRIES; i++) {
    const { lane: tried, title } = driven(lane, drive);
    const result = await run(tried);
    const { integratedLufs, truePeakDbtp, plrLu, rangeLu } = result.master;
    const off = Math.abs(targetLufs - integratedLufs);
    if (!best || off < best.off) {
      const figures = { integratedLufs, truePeakDbtp, plrLu, rangeLu, distortionDb: addedDistortionDb(result) };
      const reached = off <= EQUAL_LU;
      best = { off, version: { lane: tried, driveDb: drive, drivenStage: title, reached, ...figures } };
    }
    if (off <= CLOSE_LU || !Number.isFinite(integratedLufs)) break;
    // A dB of drive gives less than a dB of loudness where peaks are held; how much less the last two tries tell.
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
