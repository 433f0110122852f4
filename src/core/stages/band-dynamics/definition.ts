import { bandRegion } from '../bands/region';
import { defineStage } from '../definition';
import { BandDynamicsProcessor } from './processor';
import { bandDynamicsSettings, dynamicsBand } from './settings';

export const bandDynamics = defineStage({
  order: 50,
  title: 'Band dynamics',
  summary: 'Expands, compresses or limits each band',
  help: 'Good for a band that jumps out now and then, such as a boomy bass or a harsh chorus, where an equalizer would cut it all the time. Working constantly it costs the balance between the bands; while any band works, the crossovers shift the phase.',
  notes: 'In each band `expansion`, `compression` and `limiting` follow one another.',
  schema: bandDynamicsSettings,
  create: (context, settings) => new BandDynamicsProcessor(context, settings),
  figure: () => 'gainReduction',
  traits: {
    scales: ({ bands }) =>
      bands.flatMap((_, i) => [
        { control: `bands.${i}.compression.ratio`, neutral: 1 },
        { control: `bands.${i}.makeupDb`, neutral: 0 },
      ]),
    byBands: {
      withBands: (settings, change) => ({ ...settings, bands: change(settings.bands, dynamicsBand.parse({})) }),
      reductions: true,
    },
    region: (_, band, crossovers) => bandRegion(crossovers, band),
    measures: { spectra: true, bandLevels: true },
  },
});
