import { newStage } from '../../lane/schema';
import { figure } from '../../measure/figure';
import { limiterSettings } from '../../stages/limiter/settings';
import { tenth, type DraftRule } from './step';

export const limiter: DraftRule = {
  id: 'limiter',
  decide({ aim, entering }) {
    const stage = newStage('limiter', 'limiter');
    const inputGainDb = Math.max(-12, Math.min(24, tenth(aim.lufs - entering.integratedLufs)));
    stage.settings = limiterSettings.parse({ inputGainDb, ceilingDbtp: aim.ceilingDbtp, autoRecoveryPercent: 50 });
    return { reason: `Its input gain is solved to ${figure(aim.lufs)} LUFS.`, stage };
  },
};
