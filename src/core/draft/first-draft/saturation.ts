import { newStage } from '../../lane/schema';
import { change } from '../../measure/figure';
import { saturationSettings } from '../../stages/saturation/settings';
import { tenth, type DraftRule } from './step';

/** Bass below this keeps its shape, in Hz. */
const PROTECT_HZ = 120;

export const saturation: DraftRule = {
  id: 'saturation',
  decide({ limits, strength }) {
    const driveDb = tenth(strength * limits.saturationDb);
    if (strength === 0) return { reason: 'No saturation is left at this strength.', stage: null };
    const stage = newStage('saturation', 'saturation');
    stage.settings = saturationSettings.parse({
      ...{ curve: 'mixedSoft', driveDb, mixPercent: 50, protectBelowHz: PROTECT_HZ, makeupMatched: false },
    });
    return {
      reason: `Colour was asked for: even and odd harmonics at ${change(driveDb)} dB of drive, half mixed in; bass below ${PROTECT_HZ} Hz stays clean.`,
      stage,
    };
  },
};
