import { BandDynamicsProcessor } from './band-dynamics/processor';
import { bandDynamicsSettings, type BandDynamicsSettings } from './band-dynamics/settings';
import { ClipperProcessor } from './clipper/processor';
import { clipperSettings, type ClipperSettings } from './clipper/settings';
import { CompressorProcessor } from './compressor/processor';
import { compressorSettings, type CompressorSettings } from './compressor/settings';
import { DeEsserProcessor } from './de-esser/processor';
import { deEsserSettings, type DeEsserSettings } from './de-esser/settings';
import type { StageDefinition } from './definition';
import { EqualizerProcessor } from './equalizer/processor';
import { equalizerSettings, type EqualizerSettings } from './equalizer/settings';
import { LimiterProcessor } from './limiter/processor';
import { limiterSettings, type LimiterSettings } from './limiter/settings';
import { RoomProcessor } from './room/processor';
import { roomSettings, type RoomSettings } from './room/settings';
import { SaturationProcessor } from './saturation/processor';
import { saturationSettings, type SaturationSettings } from './saturation/settings';
import { StereoProcessor } from './stereo/processor';
import { stereoSettings, type StereoSettings } from './stereo/settings';
import { TrimProcessor } from './trim/processor';
import { trimSettings, type TrimSettings } from './trim/settings';

/** Settings of each kind of stage. */
export interface StageSettings {
  trim: TrimSettings;
  equalizer: EqualizerSettings;
  deEsser: DeEsserSettings;
  compressor: CompressorSettings;
  bandDynamics: BandDynamicsSettings;
  stereo: StereoSettings;
  room: RoomSettings;
  saturation: SaturationSettings;
  clipper: ClipperSettings;
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
  deEsser: {
    title: 'De-esser',
    purpose: 'Calms sharp sibilants',
    help: 'Good for a voice whose s and t jump out of the mix: only the sibilants are touched, and only while they are too loud. Costs brightness of what else lies there at that moment; the mixer can do it better on the voice alone.',
    schema: deEsserSettings,
    create: (context, settings) => new DeEsserProcessor(context, settings),
  },
  compressor: {
    title: 'Compressor',
    purpose: 'Evens out the level and holds the mix together',
    help: 'Good for cohesion and punch with 1 to 2 dB of gain reduction; a dense mix wants less. Costs transients and life when it works more than 3 dB on the loudest passage.',
    schema: compressorSettings,
    create: (context, settings) => new CompressorProcessor(context, settings),
  },
  bandDynamics: {
    title: 'Band dynamics',
    purpose: 'Expands, compresses or limits each band by itself',
    help: 'Good for a band that jumps out now and then, as a boomy bass or a harsh chorus, when an equalizer would take it always. Costs the balance between the bands when it works all the time; the crossovers turn the phase while any band works.',
    schema: bandDynamicsSettings,
    create: (context, settings) => new BandDynamicsProcessor(context, settings),
  },
  stereo: {
    title: 'Stereo',
    purpose: 'Sets width, mono bass and the balance of the sides',
    help: 'Good for a bass that holds in mono, a narrow mix that wants air, or sides that lean. Costs level in mono where the side grows: watch the fold-down loss.',
    schema: stereoSettings,
    create: (context, settings) => new StereoProcessor(context, settings),
  },
  room: {
    title: 'Room',
    purpose: 'Puts a touch of a room around everything',
    help: 'Good for a dry recording that was made without any room, in amounts that are felt rather than heard. Do not use it on a mix that has rooms of its own, on dense or loud music, or to make something better that belongs back with the mixer: it blurs what is sharp and costs punch and level.',
    schema: roomSettings,
    create: (context, settings) => new RoomProcessor(context, settings),
  },
  saturation: {
    title: 'Saturation',
    purpose: 'Adds harmonics: warmth, density, presence',
    help: 'Good for a mix that sounds thin or too clean: harmonics make it fuller without more level. Costs clarity, and what it adds cannot be taken out again; the level is held, so judge the colour and not the loudness.',
    schema: saturationSettings,
    create: (context, settings) => new SaturationProcessor(context, settings),
  },
  clipper: {
    title: 'Clipper',
    purpose: 'Shaves the tips off the loudest peaks',
    help: 'Good for peaks of microseconds that would make the limiter work: dense material hides 1 to 3 dB of it. Costs distortion that a bare piano, a voice alone or a pure tone lays open at once: listen to what is removed.',
    schema: clipperSettings,
    create: (context, settings) => new ClipperProcessor(context, settings),
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

/** Whether a kind of stage bends the wave, so that what it adds is worth watching. */
export function bendsWave(kind: StageKind): boolean {
  return kind === 'compressor' || kind === 'saturation' || kind === 'clipper' || kind === 'limiter';
}

/** Whether a kind of stage works by the lane's crossovers, or can. */
export function isBandwise(kind: StageKind): boolean {
  return kind === 'bandDynamics' || kind === 'stereo' || kind === 'saturation' || kind === 'limiter';
}
