import { newStage } from '../../lane/schema';
import { figure } from '../../measure/figure';
import { LIMITER_PAIR } from '../../stages/limiter/pair';
import { limiterSettings } from '../../stages/limiter/settings';
import type { DraftRule } from './step';

export const safety: DraftRule = {
  id: 'safety',
  decide({ aim: { ceilingDbtp } }) {
    const [, { name, settings }] = LIMITER_PAIR;
    const stage = newStage('limiter', 'safety');
    stage.name = name;
    stage.settings = limiterSettings.parse({ ...settings, ceilingDbtp });
    return {
      reason: `Catches what is left of true peaks at ${figure(ceilingDbtp)} dBTP, with eight times the points of the mix; it hardly moves.`,
      stage,
    };
  },
};
