import type { StageDefinition } from './definition';
import { EqualizerProcessor } from './equalizer/processor';
import { equalizerSettings, type EqualizerSettings } from './equalizer/settings';
import { LimiterProcessor } from './limiter/processor';
import { limiterSettings, type LimiterSettings } from './limiter/settings';
import { TrimProcessor } from './trim/processor';
import { trimSettings, type TrimSettings } from './trim/settings';

/** Settings of each kind of stage. */
export interface StageSettings {
  trim: TrimSettings;
  equalizer: EqualizerSettings;
  limiter: LimiterSettings;
}

export type StageKind = keyof StageSettings;

type Registry = { readonly [Kind in StageKind]: StageDefinition<StageSettings[Kind]> };

/** The one list of kinds, in the order in which engineers commonly use them. */
export const STAGES: Registry = {
  trim: {
    title: 'Trim',
    purpose: 'Sets the level into the lane',
    help: 'Good for bringing every mix to the level at which the later stages work best, and for a mix that leans to one side. Costs nothing.',
    schema: trimSettings,
    create: (context, settings) => new TrimProcessor(context, settings),
  },
  equalizer: {
    title: 'Equalizer',
    purpose: 'Corrects and colours the balance',
    help: 'Good for taking out what rings or booms and for broad strokes. Costs headroom where it boosts; its phase turns where its curve bends, as an analogue one does.',
    schema: equalizerSettings,
    create: (context, settings) => new EqualizerProcessor(context, settings),
  },
  limiter: {
    title: 'Limiter',
    purpose: 'Holds true peaks below a ceiling',
    help: 'Good for the last few dB of loudness and for a ceiling that holds between the samples. Costs punch when it works much; more than 3 dB on the loudest passage is heard.',
    schema: limiterSettings,
    create: (context, settings) => new LimiterProcessor(context, settings),
  },
};

export const STAGE_KINDS = Object.keys(STAGES) as StageKind[];
