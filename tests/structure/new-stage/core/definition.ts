import { defineStage } from '../definition';
import { PolarityProcessor } from './processor';
import { polaritySettings } from './settings';

export const polarity = defineStage({
  order: 15,
  title: 'Polarity',
  summary: 'Inverts the polarity of a channel',
  help: 'Puts right a mix whose channels were wired against each other. Costs nothing.',
  schema: polaritySettings,
  create: (context, settings) => new PolarityProcessor(context, settings),
  figure: ({ left, right }) => ({ text: left && right ? 'both' : left ? 'left' : right ? 'right' : '–' }),
  traits: {},
});
