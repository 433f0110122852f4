import { bandRegion } from '../bands/region';
import { change } from '../../measure/figure';
import { defineStage } from '../definition';
import { hasEvenHarmonics } from './curves';
import { SaturationProcessor } from './processor';
import { saturationSettings } from './settings';

/** dB of drive at which every curve is a straight line. */
const LINEAR_DRIVE_DB = -100;

export const saturation = defineStage({
  order: 80,
  title: 'Saturation',
  summary: 'Adds harmonics: warmth, density, presence',
  help: 'Good for a mix that sounds thin or too clean: harmonics make it fuller without more level. Costs clarity, and you can’t take it out later; auto makeup keeps the level, so judge the colour and not the loudness.',
  schema: saturationSettings,
  create: (context, settings) => new SaturationProcessor(context, settings),
  figure: ({ driveDb }) => ({ text: `${change(driveDb)} dB drive` }),
  traits: {
    scales: () => [{ control: 'mixPercent', neutral: 0 }],
    nonlinear: {
      linearReference(settings, crossovers) {
        const { split, oversampling, toneUndone, toneBeforeDb, toneAfterDb, bandDrivesDb } = settings;
        const shifted = split === 'bands' && crossovers.phase === 'minimum';
        const toned = !toneUndone && (toneBeforeDb !== 0 || toneAfterDb !== 0);
        const even = hasEvenHarmonics(settings);
        if (!shifted && !toned && !even && oversampling.phase === 'linear') return null;
        return {
          ...settings,
          // A curve with even harmonics but no bias: the DC filter after it stays.
          curve: even ? 'mixedSoft' : settings.curve,
          biasPercent: 0,
          driveDb: LINEAR_DRIVE_DB,
          bandDrivesDb: bandDrivesDb.map(() => 0),
          makeupDb: 0,
        };
      },
    },
    byBands: {
      withBands: (settings, edit) => ({
        ...settings,
        bandDrivesDb: edit(settings.bandDrivesDb, 0),
        bandAmountsPercent: edit(settings.bandAmountsPercent, 100),
      }),
    },
    autoMakeup: { on: 'makeupMatched', setting: 'makeupDb' },
    region: ({ split }, band, crossovers) => (split === 'bands' ? bandRegion(crossovers, band) : []),
    measures: { spectra: true },
  },
});
