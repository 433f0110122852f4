import { compressorSettings } from '../stages/compressor/settings';
import { describe } from '../stages/definition';
import { saturationSettings } from '../stages/saturation/settings';
import type { Lane, Stage } from './schema';

/** Stages that can hold their loudness by a measured makeup. */
type HoldingStage = Extract<Stage, { kind: 'compressor' | 'saturation' }>;

const MAKEUPS = { compressor: compressorSettings.shape.makeupDb, saturation: saturationSettings.shape.makeupDb };
/** LU by which a matched makeup may be off. */
export const MATCHED_LU = 0.05;

/** What is measured between two stages. */
interface Joint {
  integratedLufs: number;
}

function holds(stage: Stage): stage is HoldingStage {
  return (stage.kind === 'compressor' || stage.kind === 'saturation') && stage.on && stage.settings.makeupMatched;
}

/** Whether any stage of a lane has auto makeup. */
export function hasAutoMakeup({ stages }: Lane): boolean {
  return stages.some(holds);
}

/**
 * A lane whose stages with auto makeup are as loud out as in, by the loudness at its joints; null when they are already
 * within `matchedLu`, or the joints are those of another lane.
 */
export function withHeldLoudness(lane: Lane, joints: readonly Joint[], matchedLu = MATCHED_LU): Lane | null {
  if (!hasAutoMakeup(lane) || joints.length !== lane.stages.length + 1) return null;
  const stages = lane.stages.map((stage, i): Stage => {
    if (!holds(stage)) return stage;
    const { min, max } = describe(MAKEUPS[stage.kind]);
    const off = joints[i].integratedLufs - joints[i + 1].integratedLufs;
    const makeupDb = Math.round(100 * Math.max(min, Math.min(max, stage.settings.makeupDb + off))) / 100;
    if (!Number.isFinite(off) || Math.abs(off) < matchedLu || makeupDb === stage.settings.makeupDb) return stage;
    return { ...stage, settings: { ...stage.settings, makeupDb } } as Stage;
  });
  return stages.some((stage, i) => stage !== lane.stages[i]) ? { ...lane, stages } : null;
}
