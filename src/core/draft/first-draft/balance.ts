import { newStage } from '../../lane/schema';
import { change, figure } from '../../measure/figure';
import { equalizerSettings, type EqualizerBand } from '../../stages/equalizer/settings';
import { RECORDS_DB } from '../balance-curve';
import { fittedStrokes, MOST_DB, regionOf, responseDb } from '../strokes';
import type { DraftRule } from './step';

/** Records are so far from their average without a fault, in dB, and this share of the rest is made up for (our own judgement). */
const TOLERANCE_DB = 2;
const SHARE = 0.7;

/** Bands whose response together stays within the most that a draft moves. */
function withinMost(bands: EqualizerBand[]): EqualizerBand[] {
  const most = Math.max(...responseDb(bands).map(Math.abs));
  if (most <= MOST_DB) return bands;
  return bands.map((band) => ({ ...band, gainDb: Math.trunc((10 * band.gainDb * MOST_DB) / most) / 10 }));
}

export const balance: DraftRule = {
  id: 'balance',
  decide({ mix, reference, strength }) {
    const than = reference ? reference.name : 'records have on average';
    const difference = mix.balance.map(({ levelDbfs }, i) => {
      const wanted = reference ? reference.balanceDb[i] : RECORDS_DB[i];
      const db = levelDbfs - (wanted ?? NaN);
      return Number.isFinite(db) ? db : null;
    });
    const strokes = fittedStrokes(difference, { toleranceDb: TOLERANCE_DB, share: SHARE * strength });
    if (strokes.length === 0)
      return {
        reason: `Within ${figure(TOLERANCE_DB)} dB of what ${reference ? `${than} has` : than}, in broad strokes.`,
        stage: null,
      };
    const stage = newStage('equalizer', 'balance');
    const bands = withinMost(strokes.map(({ band }) => band)).filter(({ gainDb }) => gainDb !== 0);
    stage.settings = equalizerSettings.parse({ bands });
    const moves = strokes.flatMap(({ band, lacksDb }) => {
      const used = bands.find(({ frequencyHz }) => frequencyHz === band.frequencyHz);
      if (!used) return [];
      const apart =
        Math.sign(band.gainDb) === Math.sign(lacksDb)
          ? `${figure(Math.abs(lacksDb))} dB ${lacksDb > 0 ? 'less' : 'more'}`
          : 'what its neighbours leave';
      return [`${regionOf(band).replace(/^./, (first) => first.toLowerCase())} ${apart} (${change(used.gainDb)} dB)`];
    });
    return { reason: `Against what ${reference ? `${than} has` : than}: ${moves.join(', ')}.`, stage };
  },
};
