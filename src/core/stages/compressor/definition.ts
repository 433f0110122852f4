import { defineStage } from '../definition';
import { CompressorProcessor } from './processor';
import { compressorSettings } from './settings';
import { sideChainBands } from './side-chain';

export const compressor = defineStage({
  order: 40,
  title: 'Compressor',
  summary: 'Evens out the level and glues the mix',
  help: 'Good for glue and punch with 1 to 2 dB of gain reduction; a dense mix wants less. More than 3 dB on the loudest passage costs transients and life.',
  notes:
    'The attack is the time to 63 % of a step whatever the onset; the release is the time to 63 % of the way back, and the attack adds to it. Auto release: 2 · release / C², at most the release, with the crest factor C over 200 ms.',
  schema: compressorSettings,
  create: (context, settings) => new CompressorProcessor(context, settings),
  figure: () => 'gainReduction',
  traits: {
    scales: () => [
      { control: 'ratio', neutral: 1 },
      { control: 'makeupDb', neutral: 0 },
    ],
    measures: { peaks: true },
    nonlinear: {},
    region: (settings) => sideChainBands(settings),
    hearsInput: true,
    drive: { setting: 'makeupDb', into: 'makeup' },
    autoMakeup: { on: 'makeupMatched', setting: 'makeupDb' },
  },
});
