import type { z } from 'zod';
import type { Kernels } from '../kernels/host';
import type { Crossovers } from './bands/crossovers';
import type { EqualizerBand } from './equalizer/settings';

/** What a lane runs for: stages may spend less effort while listening. */
export type Use = 'listening' | 'delivery';

/** Where and how a processor runs. */
export interface StageContext {
  use: Use;
  kernels: Kernels;
  /** Hz */
  sampleRate: number;
  /** Largest block in frames; every block is a multiple of the quantum. */
  maxFrames: number;
  /** The lane's crossovers, for the stages that work by bands. */
  crossovers: Crossovers;
  /** Uploaded impulse responses by the name that settings use. */
  impulses: ReadonlyMap<string, ImpulseResponse>;
}

/** An impulse response at the sample rate of the track; channels of equal length. */
export interface ImpulseResponse {
  left: Float32Array;
  right: Float32Array;
}

/** The sound of one stage. Memory is allocated in the constructor only. */
export interface StageProcessor<Settings> {
  /** Frames by which the output trails the input. */
  readonly latency: number;
  /**
   * Takes new settings, or new crossovers; whatever changes ramps. Called only when they did change. Returns false when they
   * need another processor (their latency differs), in which case nothing has changed.
   */
  update(settings: Settings, crossovers: Crossovers): boolean;
  /** Processes a block in place; addresses of planar f64 buffers in the kernels' memory. */
  process(left: number, right: number, frames: number): void;
  /** Tells which frame of the track the next block starts with, to a stage whose sound depends on the place in the track. */
  seek?(frame: number): void;
  /** Largest gain reduction in dB since the last call; 0 for a stage that never reduces. */
  takeGainReduction(): number;
  /** Share of the samples that were clipped since the last call, 0 to 1, for a stage that clips. */
  takeTouched?(): number;
  /** Largest gain reduction in dB of each band between the last two calls of {@link takeGainReduction}. */
  bandReductions?(): number[];
  /** dB by which each band's gain is moved now, for a stage with bands that follow the level. */
  movements?(): number[];
}

/** What a lane shows of a stage as one figure. */
export type StageFigure = 'gainReduction' | { text: string };

/**
 * What the rest of the program asks about a kind of stage, instead of asking for its name. A trait that is left out means:
 * no.
 */
export interface StageTraits<Settings> {
  /** Distorts, so that what it adds is worth measuring. */
  nonlinear?: {
    /**
     * Settings with which the stage does everything it does besides distorting, at unity gain: what its crossovers, tone
     * filters and oversampling filters do by themselves. Null where that is latency alone. Some values are outside what a
     * lane may hold.
     */
    linearReference?(settings: Settings, crossovers: Crossovers): Settings | null;
  };
  /** Works by the lane's crossovers, or can. */
  byBands?: {
    /** Changes the settings that the stage keeps for each band, when a band is split or merged. `fresh` is a new band's. */
    withBands?(settings: Settings, change: <Band>(bands: Band[], fresh: Band) => Band[]): Settings;
    /** Its gain reduction is traced for each band. */
    reductions?: boolean;
  };
  /** Takes level for loudness matching: into a ceiling (clipper, limiter), or as makeup when no ceiling ends the lane. */
  drive?: { setting: keyof Settings & string; into: 'ceiling' | 'makeup' };
  /** Keeps its output as loud as its input by a measured makeup, in dB, while `on`. */
  autoMakeup?: { on: keyof Settings & string; setting: keyof Settings & string };
  /** Has bands with which a resonance can be hunted: a sweep. */
  sweeps?: boolean;
  /** Bands that pass only what the stage, or one of its bands, works on. None: there is no such region. */
  region?(settings: Settings, band: number, crossovers: Crossovers): EqualizerBand[];
  /** That region is its side-chain: what is listened to is the stage's input. */
  hearsInput?: boolean;
  /** What is measured before and after it, besides level. */
  measures?: {
    spectra?: boolean;
    image?: boolean;
    /** The highest sample of each block. */
    peaks?: boolean;
    /** The levels of the lane's bands before it. */
    bandLevels?: boolean;
    /** Tips of its input that reach this amplitude, its ceiling. */
    tips?(settings: Settings): number;
  };
  /** The uploaded impulse response it needs; null for none. */
  impulse?(settings: Settings): string | null;
  /** The same settings without an uploaded impulse response, for when that can't be had. */
  withoutImpulse?(settings: Settings): Settings;
  /** Extra memory in bytes that its processor needs beyond the usual. */
  memoryBytes?(settings: Settings, context: Pick<StageContext, 'sampleRate' | 'impulses'>): number;
  /** The peak in dB that nothing passes, and that a conversion to another rate must not pass either. */
  ceilingDb?(settings: Settings): number;
  /** Numeric settings by their paths that an overall amount moves, and where each does nothing. */
  scales?(settings: Settings): readonly { control: string; neutral: number }[];
  /** It is there to change the level. */
  changesLevel?: boolean;
  /** Belongs at the end of a lane: what is copied from elsewhere goes before it. */
  endsLane?: boolean;
}

/** Settings as a saved lane holds them: not checked yet. */
export type SavedSettings = Record<string, unknown>;

/** One kind of stage: the only place that knows it. */
export interface StageDefinition<Settings> {
  /** Position in menus: the order in which engineers commonly use the stages. */
  order: number;
  title: string;
  /** One line: what the stage is for. */
  summary: string;
  /** What it is good for, and what it costs. */
  help: string;
  /** Markdown for the documentation of lane files, beyond what the settings say. */
  notes?: string;
  schema: z.ZodType<Settings>;
  create(context: StageContext, settings: Settings): StageProcessor<Settings>;
  /** The one figure that says what the stage does now; `bands` of the lane. */
  figure(settings: Settings, bands: number): StageFigure;
  traits: StageTraits<Settings>;
  /** How settings saved under a lane schema become those of the next one; by the older schema's number. */
  migrations?: Readonly<Record<number, (settings: SavedSettings) => SavedSettings>>;
  /** The same for what is saved of the stage besides its settings, after those. */
  stageMigrations?: Readonly<Record<number, (stage: SavedStage) => SavedStage>>;
}

/** A stage as it was saved. */
export type SavedStage = Record<string, unknown> & { settings: SavedSettings };

/** Checks a definition against its own settings type. */
export function defineStage<Settings>(definition: StageDefinition<Settings>): StageDefinition<Settings> {
  return definition;
}
