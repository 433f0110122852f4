import type { Lane } from '../../lane/schema';
import type { BalanceBand } from '../../measure/balance';

/** What can be observed, with what it is called in a list. */
export const OBSERVATIONS = {
  limiting: 'Limiter works hard',
  rattle: 'Bass distorts',
  wideBass: 'Bass is wide',
  loudness: 'Stage changes loudness',
  idle: 'Stage does nothing',
  cancelling: 'Stages cancel out',
  encode: 'Encode has overs',
} as const;
export type ObservationKind = keyof typeof OBSERVATIONS;
export const OBSERVATION_KINDS = Object.keys(OBSERVATIONS) as [ObservationKind, ...ObservationKind[]];

/** Something in a master that is worth a look. It never blocks anything. */
export interface Observation {
  kind: ObservationKind;
  /** The stages that it is about: none for the lane as a whole. */
  stages: readonly string[];
  /** What was found, with its figure. */
  sentence: string;
  /** Where to hear it, in seconds; null for everywhere. */
  seconds: number | null;
  /** What would mend it in one step, as the label of that step; null where only the engineer can say. */
  remedy: { label: string; apply(lane: Lane): Lane } | null;
}

/** An encode of a master that was checked. */
export interface ObservedEncode {
  /** “AAC, 256 kb/s” */
  name: string;
  truePeakDbtp: number;
  limitDbtp: number;
  /** The first over, in seconds; null for none. */
  seconds: number | null;
  /** The ceiling in dBTP of a limiter with which the encode was found to stay within its limit; null without one. */
  clearing: { stage: string; ceilingDbtp: number } | null;
}

/** A lane with what was measured of its master; lists have one entry for each stage, null where nothing was measured. */
export interface ObservedMaster {
  lane: Lane;
  /** Hz */
  sampleRate: number;
  /** The loudest passage of the mix in frames; null when it is not known. */
  loudest: { start: number; end: number } | null;
  /** One more than there are stages: the first is the mix. */
  joints: readonly { integratedLufs: number; truePeakDbtp: number }[];
  /** dB, one value for each {@link ObservedMaster.traceFrames}. */
  gainReduction: readonly (Float32Array | null)[];
  traceFrames: number;
  distortions: readonly ({ added: { totalDb: number; lowDb: number } | null } | null)[];
  /** Average spectra around each stage in dBFS, one value for each bin from 0 Hz up to half the rate. */
  spectra: readonly ({ before: Float32Array; after: Float32Array } | null)[];
  /** Balance of the master in the loudest passage, by third-octaves; null when it is not known. */
  passageBalance: readonly BalanceBand[] | null;
  encodes: readonly ObservedEncode[];
}

/** Finds what there is of one kind. */
export type Rule = (master: ObservedMaster) => Observation[];
