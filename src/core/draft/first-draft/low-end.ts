import { newStage } from '../../lane/schema';
import { BASS_HZ } from '../../measure/bass-peaks';
import { figure } from '../../measure/figure';
import { equalizerBand, equalizerSettings } from '../../stages/equalizer/settings';
import { excessDb, LEAST_DB, tenth, type DraftRule } from './step';

/** Bass that raises the peaks by this is what makes a limiter work, once the limiter has this to do, in dB (our own judgement). */
const MUCH_DB = 2.5;
const WORKS_DB = 1;
const SHELF_HZ = 100;

export const lowEnd: DraftRule = {
  id: 'lowEnd',
  decide(context) {
    const { mix, limits, strength, meets } = context;
    const found = `Without what is below ${BASS_HZ} Hz the peaks of the loudest passage are ${figure(mix.bassPeaksDb)} dB lower`;
    const excess = excessDb(context);
    if (mix.bassPeaksDb < MUCH_DB)
      return { reason: `${found}: it is not the bass that makes the limiter work.`, stage: null };
    if (meets || excess < WORKS_DB)
      return { reason: `${found}, but the limiter has hardly anything to do.`, stage: null };
    const reductionDb = tenth(Math.min(3, strength * limits.lowEndDb, mix.bassPeaksDb));
    if (reductionDb < LEAST_DB)
      return { reason: `${found}. Hardly any movement is left at this strength.`, stage: null };
    const at = (thresholdDbfs: number) => {
      const band = equalizerBand.parse({
        ...{ shape: 'lowShelf', frequencyHz: SHELF_HZ, gainDb: 0 },
        dynamics: { thresholdDbfs, rangeDb: -reductionDb, attackMs: 15, releaseMs: 150 },
      });
      const stage = newStage('equalizer', 'low-end');
      stage.name = 'Moving low end';
      stage.settings = equalizerSettings.parse({ bands: [band] });
      return stage;
    };
    return {
      reason: `${found}: bass would work the limiter. A shelf at ${SHELF_HZ} Hz goes down by up to ${figure(reductionDb)} dB on its loudest notes and rests otherwise.`,
      stage: at(-30),
      seeks: { reductionDb: 0.9 * reductionDb, minDb: -60, maxDb: 0, at },
    };
  },
};
