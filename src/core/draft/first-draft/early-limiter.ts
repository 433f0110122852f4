import { newStage } from '../../lane/schema';
import { figure } from '../../measure/figure';
import { LIMITER_PAIR } from '../../stages/limiter/pair';
import { limiterSettings } from '../../stages/limiter/settings';
import { excessDb, heldAt, LEAST_DB, tenth, type DraftRule } from './step';

export const earlyLimiter: DraftRule = {
  id: 'earlyLimiter',
  decide(context) {
    const { limits, strength, entering, meets } = context;
    const excess = excessDb(context);
    if (meets || excess < 1) return { reason: 'Peaks stay below the ceiling: there is nothing to shape.', stage: null };
    const takesDb = tenth(Math.min(strength * limits.earlyLimiterDb, excess));
    if (takesDb < LEAST_DB) return { reason: 'Hardly any early limiting is left at this strength.', stage: null };
    const { settings } = LIMITER_PAIR[0];
    const at = (peaksDb: number) => {
      const { inputGainDb, ceilingDb } = heldAt(peaksDb, -12);
      const stage = newStage('limiter', 'early-limiter');
      stage.name = 'Early limiter';
      stage.settings = limiterSettings.parse({ ...settings, inputGainDb, ceilingDbtp: ceilingDb });
      return stage;
    };
    const peaksDb = entering.peakDbtp - takesDb;
    return {
      reason: `Colour was asked for: a fast limiter takes up to ${figure(takesDb)} dB of the peaks first and leaves their attack, so the last one works less.`,
      stage: at(peaksDb),
      seeks: { reductionDb: takesDb, minDb: peaksDb - 3, maxDb: entering.peakDbtp + 3, at },
    };
  },
};
