import { change } from '../../measure/figure';
import { defineStage } from '../definition';
import { TrimProcessor } from './processor';
import { trimSettings } from './settings';

export const trim = defineStage({
  order: 10,
  title: 'Trim',
  summary: 'Sets the level into the lane',
  help: 'Brings every mix to the level where the later stages work best, and balances left and right. Costs nothing.',
  schema: trimSettings,
  create: (context, settings) => new TrimProcessor(context, settings),
  figure: ({ linked, gainDb, gainLeftDb, gainRightDb }) => ({
    text: linked ? `${change(gainDb)} dB` : `${change(gainLeftDb)} / ${change(gainRightDb)}`,
  }),
  traits: { changesLevel: true },
});
