import type { Lane, Stage } from '../../core/lane/schema';
import { compressorSettings } from '../../core/stages/compressor/settings';
import { describe } from '../../core/stages/definition';
import { saturationSettings } from '../../core/stages/saturation/settings';
import type { JointReading } from '../../engine/pass/result';

/** Stages that can hold their loudness by a measured makeup. */
type HoldingStage = Extract<Stage, { kind: 'compressor' | 'saturation' }>;

const MAKEUPS = { compressor: compressorSettings.shape.makeupDb, saturation: saturationSettings.shape.makeupDb };
/** LU by which a matched makeup may be off. */
const MATCHED_LU = 0.05;

function holds(stage: Stage): stage is HoldingStage {
  return (stage.kind === 'compressor' || stage.kind === 'saturation') && stage.on && stage.settings.makeupMatched;
}

/**
 * A lane whose stages that hold their loudness are as loud out as in, by the joints of its full pass; null when they are
 * already, or the joints are those of another lane.
 */
export function withHeldLoudness(lane: Lane, joints: readonly JointReading[]): Lane | null {
  if (!lane.stages.some(holds) || joints.length !== lane.stages.length + 1) return null;
  const stages = lane.stages.map((stage, i): Stage => {
    if (!holds(stage)) return stage;
    const { min, max } = describe(MAKEUPS[stage.kind]);
    const off = joints[i].integratedLufs - joints[i + 1].integratedLufs;
    const makeupDb = Math.round(100 * Math.max(min, Math.min(max, stage.settings.makeupDb + off))) / 100;
    if (!Number.isFinite(off) || Math.abs(off) < MATCHED_LU || makeupDb === stage.settings.makeupDb) return stage;
    return { ...stage, settings: { ...stage.settings, makeupDb } } as Stage;
  });
  return stages.some((stage, i) => stage !== lane.stages[i]) ? { ...lane, stages } : null;
}
