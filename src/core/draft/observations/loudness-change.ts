import { MAX_STAGES, newStage, stageTitle, type Lane, type Stage } from '../../lane/schema';
import { freeId, numberSetting, settingSchema, withLaneSetting, withStagesAt } from '../../lane/stage-edits';
import { figure } from '../../measure/figure';
import { traitsOf } from '../../stages/registry';
import { describe } from '../../stages/setting';
import { trimSettings } from '../../stages/trim/settings';
import type { Observation, Rule } from './observation';

/** A change of loudness that is easily taken for a better sound, in LU (common practice, no source). */
const MOST_LU = 1;

/** Brings a stage's output back: by its own makeup, else by a trim after it; null where there is no room for that. */
function remedyFor(stage: Stage, changeLu: number, { stages }: Lane): Observation['remedy'] {
  const { drive, autoMakeup } = traitsOf<Stage>(stage);
  if (autoMakeup && (stage.settings as Record<string, unknown>)[autoMakeup.on] !== true)
    return {
      label: 'Auto makeup on',
      apply: (lane) => withLaneSetting(lane, stage.id, autoMakeup.on, true),
    };
  // Its range ends where it is.
  if (autoMakeup) return null;
  const dB = -Math.round(10 * changeLu) / 10;
  if (drive?.into === 'makeup') {
    const { min, max, title } = describe(settingSchema(stage, drive.setting));
    const value = Math.round(10 * (numberSetting(stage, drive.setting) + dB)) / 10;
    if (value < min || value > max) return null;
    return {
      label: `${title} ${figure(value)} dB`,
      apply: (lane) => withLaneSetting(lane, stage.id, drive.setting, value),
    };
  }
  const { min, max } = describe(trimSettings.shape.gainDb);
  if (dB < min || dB > max || stages.length >= MAX_STAGES) return null;
  return {
    label: `Trim ${figure(dB)} dB after it`,
    apply: (lane) => {
      const trim = newStage('trim', freeId(lane.stages, 'level-after'));
      trim.settings.gainDb = dB;
      const at = lane.stages.findIndex(({ id }) => id === stage.id) + 1;
      const added = withStagesAt(lane.stages, at, trim);
      return added ? { ...lane, stages: added } : lane;
    },
  };
}

/** Stages that are meant to shape the sound, and make it louder or quieter as well. */
export const loudnessChange: Rule = ({ lane, joints }) =>
  lane.stages.flatMap((stage, i) => {
    const { drive, changesLevel } = traitsOf<Stage>(stage);
    if (!stage.on || changesLevel || drive?.into === 'ceiling') return [];
    const next = lane.stages[i + 1];
    // A trim right after it is how an engineer takes the level back.
    const to = next?.on && traitsOf(next).changesLevel ? joints[i + 2] : joints[i + 1];
    const changeLu = to.integratedLufs - joints[i].integratedLufs;
    if (!(Math.abs(changeLu) >= MOST_LU) || !Number.isFinite(changeLu)) return [];
    return [
      {
        kind: 'loudness',
        stages: [stage.id],
        sentence: `${stageTitle(stage)} makes the track ${figure(Math.abs(changeLu))} LU ${changeLu > 0 ? 'louder' : 'quieter'} by itself. Switched on and off it is judged by its level, not by its sound.`,
        seconds: null,
        remedy: remedyFor(stage, changeLu, lane),
      },
    ];
  });
