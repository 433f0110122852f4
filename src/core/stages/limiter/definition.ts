import { defineStage } from '../definition';
import { withAmounts } from './migration';
import { LimiterProcessor } from './processor';
import { limiterSettings } from './settings';

/** A ceiling in dB that nothing reaches. */
const OUT_OF_REACH_DB = 120;

export const limiter = defineStage({
  order: 100,
  title: 'Limiter',
  summary: 'Keeps true peaks below a ceiling',
  help: 'Good for the last few dB of loudness and for a ceiling that holds between the samples. Costs punch when it works hard; more than 3 dB on the loudest passage is audible.',
  schema: limiterSettings,
  create: (context, settings) => new LimiterProcessor(context, settings),
  figure: () => 'gainReduction',
  traits: {
    scales: () => [{ control: 'inputGainDb', neutral: 0 }],
    measures: { peaks: true },
    nonlinear: {
      linearReference: (settings, crossovers) =>
        !settings.preLimited || crossovers.phase === 'linear'
          ? null
          : { ...settings, emphasisDb: 0, inputGainDb: 0, ceilingDbtp: OUT_OF_REACH_DB },
    },
    byBands: {},
    drive: { setting: 'inputGainDb', into: 'ceiling' },
    ceilingDb: ({ ceilingDbtp }) => ceilingDbtp,
    endsLane: true,
  },
  migrations: { 5: withAmounts },
});
