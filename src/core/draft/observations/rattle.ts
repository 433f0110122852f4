import { stageTitle, type Stage } from '../../lane/schema';
import { numberSetting, settingSchema, withLaneSetting } from '../../lane/stage-edits';
import { RATTLE_DB } from '../../measure/distortion';
import { figure } from '../../measure/figure';
import { describe } from '../../stages/setting';
import type { Rule } from './observation';

/** From this time on the gain no longer follows single cycles of the bass: a period of 20 Hz three times over, in ms. */
const SLOW_ENOUGH_MS = 150;

/** The setting that says how quickly the gain comes back; null for a stage without one. */
function recoveryOf({ settings }: Stage): 'recoveryMs' | 'releaseMs' | null {
  if ('recoveryMs' in settings) return 'recoveryMs';
  return 'releaseMs' in settings ? 'releaseMs' : null;
}

/** Stages whose gain comes back so quickly that it follows the bass, and distorts it. */
export const rattle: Rule = ({ lane, distortions, loudest, sampleRate }) =>
  lane.stages.flatMap((stage, i) => {
    const lowDb = distortions[i]?.added?.lowDb ?? -Infinity;
    const setting = recoveryOf(stage);
    if (!stage.on || setting === null || !(lowDb > RATTLE_DB)) return [];
    const now = numberSetting(stage, setting);
    if (now >= SLOW_ENOUGH_MS) return [];
    const { max, title } = describe(settingSchema(stage, setting));
    const slower = Math.min(max, Math.max(SLOW_ENOUGH_MS, Math.round(2 * now)));
    return [
      {
        kind: 'rattle',
        stages: [stage.id],
        sentence: `With ${figure(now, 0)} ms the gain of ${stageTitle(stage)} follows the bass: its distortion below 300 Hz is at ${figure(lowDb)} dB. Slower is cleaner and costs a little loudness.`,
        seconds: loudest ? loudest.start / sampleRate : null,
        remedy: {
          label: `${title} ${figure(slower, 0)} ms`,
          apply: (current) => withLaneSetting(current, stage.id, setting, slower),
        },
      },
    ];
  });
