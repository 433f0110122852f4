import { defineStage } from '../definition';
import { regionBands } from '../equalizer/region';
import { deEsserBand } from './design';
import { DeEsserProcessor } from './processor';
import { deEsserSettings } from './settings';

export const deEsser = defineStage({
  order: 30,
  title: 'De-esser',
  summary: 'Tames harsh sibilants',
  help: 'Good for a voice whose s and t jump out of the mix: it touches the sibilants only, and only while they are too loud. Costs some brightness of whatever else is up there at that moment; the mixer can do it better on the vocal track.',
  schema: deEsserSettings,
  create: (context, settings) => new DeEsserProcessor(context, settings),
  figure: () => 'gainReduction',
  traits: {
    scales: () => [{ control: 'rangeDb', neutral: 0 }],
    region: (settings) => regionBands(deEsserBand(settings, -settings.rangeDb)),
    hearsInput: true,
    measures: { spectra: true },
  },
});
