import { newStage } from '../../lane/schema';
import { figure } from '../../measure/figure';
import { compressorSettings } from '../../stages/compressor/settings';
import { excessDb, LEAST_DB, tenth, type DraftRule } from './step';

/** A range over the limit by this in LU asks for a dB of compression. */
const LU_PER_DB = 2;

export const compression: DraftRule = {
  id: 'compression',
  decide(context) {
    const { mix, limits, strength, meets, character, intensityPercent } = context;
    const { rangeLu } = mix;
    const excess = excessDb(context);
    const overRange = rangeLu - limits.rangeLu;
    const overPeaks = excess - limits.limiterDb - limits.clipperDb;
    const found = `The loudness range is ${figure(rangeLu)} LU and the peaks are ${figure(Math.max(0, excess))} dB over the ceiling at the loudness aimed for`;
    if (meets || (overRange <= 0 && overPeaks <= 0))
      return { reason: `${found}: no compression was needed.`, stage: null };
    const wanted = Math.max(1, overRange / LU_PER_DB, overPeaks / 2);
    const reductionDb = tenth(Math.min(strength * limits.compressionDb, strength * wanted));
    if (reductionDb < LEAST_DB)
      return { reason: `${found}: hardly any compression is left at this strength.`, stage: null };
    const at = (thresholdDbfs: number) => {
      const stage = newStage('compressor', 'compression');
      stage.settings = compressorSettings.parse({
        ...{ thresholdDbfs, ratio: tenth(1.5 + intensityPercent / 200), kneeDb: 6, attackMs: 30, autoRelease: true },
        ...{ detector: 'rms', sideChainHighPassHz: 90 },
        ...(character === 'coloured' ? { circuit: 'variableMu', colourPercent: 50 } : { colourPercent: 0 }),
      });
      return stage;
    };
    const why =
      overRange > 0
        ? `more range than the ${figure(limits.rangeLu)} LU that are left alone at this intensity`
        : 'more than clipper and limiter should take by themselves';
    return {
      reason: `${found}: ${why}. Up to ${figure(reductionDb)} dB in the loudest passage even it out.`,
      stage: at(-20),
      seeks: { reductionDb, minDb: -60, maxDb: 0, at },
    };
  },
};
