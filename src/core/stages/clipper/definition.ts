import { amplitude } from '../../signal/decibels';
import { defineStage } from '../definition';
import { ClipperProcessor } from './processor';
import { clipperSettings } from './settings';

/** A ceiling in dB that nothing reaches. */
const OUT_OF_REACH_DB = 120;

export const clipper = defineStage({
  order: 90,
  title: 'Clipper',
  summary: 'Shaves the tips off the loudest peaks',
  help: 'Good for peaks of microseconds that would make the limiter work: dense material hides 1 to 3 dB of it. Costs distortion that a bare piano, a solo voice or a pure tone exposes at once: listen to what is removed.',
  schema: clipperSettings,
  create: (context, settings) => new ClipperProcessor(context, settings),
  figure: () => 'gainReduction',
  traits: {
    scales: () => [{ control: 'inputGainDb', neutral: 0 }],
    nonlinear: {
      linearReference: (settings) =>
        settings.oversampling.phase === 'linear'
          ? null
          : { ...settings, link: 'none' as const, inputGainDb: 0, outputGainDb: 0, ceilingDbfs: OUT_OF_REACH_DB },
    },
    drive: { setting: 'inputGainDb', into: 'ceiling' },
    measures: { tips: ({ ceilingDbfs, inputGainDb }) => amplitude(ceilingDbfs - inputGainDb) },
  },
});
