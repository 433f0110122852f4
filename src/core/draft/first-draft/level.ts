import { newStage } from '../../lane/schema';
import { change, figure } from '../../measure/figure';
import { tenth, type DraftRule } from './step';

/** Loudness of the whole mix at which thresholds and curves of the stages have room (common practice, no source). */
const NOMINAL_LUFS = -18;
/** Nearer than this it is left, dB. */
const NEAR_DB = 2;

export const level: DraftRule = {
  id: 'level',
  decide({ mix: { integratedLufs, truePeakDbtp }, meets }) {
    const gainDb = Math.max(-24, Math.min(24, tenth(NOMINAL_LUFS - integratedLufs)));
    const found = `The mix comes at ${figure(integratedLufs)} LUFS with peaks at ${figure(truePeakDbtp)} dBTP`;
    if (meets) return { reason: `${found}, and meets the destination as it is.`, stage: null };
    if (Math.abs(gainDb) < NEAR_DB) return { reason: `${found}: a good level to work at.`, stage: null };
    const stage = newStage('trim', 'level');
    stage.settings.gainDb = gainDb;
    const why = gainDb < 0 ? 'give the stages headroom' : 'lift it to where thresholds are in reach';
    return { reason: `${found}. ${change(gainDb)} dB ${why}, at ${figure(NOMINAL_LUFS, 0)} LUFS.`, stage };
  },
};
