import { newStage } from '../../lane/schema';
import { figure } from '../../measure/figure';
import { deEsserSettings } from '../../stages/de-esser/settings';
import { LEAST_DB, tenth, type DraftRule } from './step';

/** Fewer than this a minute are chance; less above the rest than this in dB is how voices sound (our own judgement). */
const LEAST_PER_MINUTE = 4;
const MUCH_DB = 12;

export const deEssing: DraftRule = {
  id: 'deEssing',
  decide({ mix: { sibilance }, limits, strength }) {
    if (!sibilance || sibilance.perMinute < LEAST_PER_MINUTE) return { reason: 'No sibilants stand out.', stage: null };
    const { perMinute, frequencyHz, sibilantDb, elseDb, overDb } = sibilance;
    const kilohertz = `${figure(frequencyHz / 1000)} kHz`;
    const found = `Around ${kilohertz} some ${figure(perMinute, 0)} sibilants a minute are ${figure(overDb, 0)} dB over what is usual there`;
    if (overDb < MUCH_DB) return { reason: `${found}: as voices are.`, stage: null };
    const rangeDb = tenth(Math.min(strength * limits.deEssingDb, overDb / 2));
    if (rangeDb < LEAST_DB) return { reason: `${found}. Hardly any de-essing is left at this strength.`, stage: null };
    const stage = newStage('deEsser', 'de-essing');
    const thresholdDb = Math.max(-40, Math.min(-0.5, tenth((sibilantDb + Math.max(elseDb, sibilantDb - 12)) / 2)));
    stage.settings = deEsserSettings.parse({ frequencyHz, rangeDb, thresholdDb, part: 'mid' });
    return { reason: `${found}. They are taken down by up to ${figure(rangeDb)} dB, in the mid only.`, stage };
  },
};
