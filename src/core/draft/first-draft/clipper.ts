import { newStage } from '../../lane/schema';
import { figure } from '../../measure/figure';
import { clipperSettings } from '../../stages/clipper/settings';
import { excessDb, heldAt, LEAST_DB, tenth, type DraftRule } from './step';

export const clipper: DraftRule = {
  id: 'clipper',
  decide(context) {
    const { limits, strength, entering, character, meets } = context;
    const excess = excessDb(context);
    const found = `Peaks are ${figure(Math.max(0, excess))} dB over the ceiling at the loudness aimed for`;
    const over = excess - limits.limiterDb / 2;
    const shavesDb = tenth(Math.min(strength * limits.clipperDb, over));
    if (meets || shavesDb < LEAST_DB) return { reason: `${found}: the limiter takes that by itself.`, stage: null };
    const { inputGainDb, ceilingDb } = heldAt(entering.peakDbtp - shavesDb, -24);
    const stage = newStage('clipper', 'clipper');
    stage.settings = clipperSettings.parse({
      curve: character === 'coloured' ? 'smooth' : 'hard',
      ...{ inputGainDb, ceilingDbfs: ceilingDb, outputGainDb: -inputGainDb },
    });
    return {
      reason: `${found}. The clipper shaves the tops by up to ${figure(shavesDb)} dB, too briefly to be heard as distortion, and the limiter keeps the rest.`,
      stage,
    };
  },
};
