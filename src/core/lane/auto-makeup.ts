import { describe } from '../stages/setting';
import { traitsOf } from '../stages/registry';
import type { Lane, Stage } from './schema';
import { numberSetting, settingSchema, withSetting } from './stage-edits';

/** LU by which auto makeup may be off. */
const MATCHED_LU = 0.05;

/** What is measured between two stages. */
interface Joint {
  integratedLufs: number;
}

/** The name of the setting that a measured makeup goes into; null for a stage without one, or with it switched off. */
function makeupOf(stage: Stage): string | null {
  const { autoMakeup } = traitsOf<Stage>(stage);
  if (!autoMakeup || !stage.on) return null;
  return (stage.settings as Record<string, unknown>)[autoMakeup.on] === true ? autoMakeup.setting : null;
}

/** Whether any stage of a lane has auto makeup. */
export function hasAutoMakeup({ stages }: Lane): boolean {
  return stages.some((stage) => makeupOf(stage) !== null);
}

/**
 * A lane whose stages with auto makeup are as loud out as in, by the loudness at its joints; null when they already are
 * within `matchedLu`, or the joints are those of another lane.
 */
export function withAutoMakeup(lane: Lane, joints: readonly Joint[], matchedLu = MATCHED_LU): Lane | null {
  if (!hasAutoMakeup(lane) || joints.length !== lane.stages.length + 1) return null;
  const stages = lane.stages.map((stage, i): Stage => {
    const name = makeupOf(stage);
    if (name === null) return stage;
    const { min, max } = describe(settingSchema(stage, name));
    const now = numberSetting(stage, name);
    const off = joints[i].integratedLufs - joints[i + 1].integratedLufs;
    const makeup = Math.round(100 * Math.max(min, Math.min(max, now + off))) / 100;
    if (!Number.isFinite(off) || Math.abs(off) < matchedLu || makeup === now) return stage;
    return withSetting(stage, name, makeup);
  });
  return stages.some((stage, i) => stage !== lane.stages[i]) ? { ...lane, stages } : null;
}
