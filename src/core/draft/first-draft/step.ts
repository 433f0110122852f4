import type { Destination } from '../../deliver/destination';
import type { Stage } from '../../lane/schema';
import type { MixReading } from './mix-reading';
import type { Character, DraftLimits, DraftStepId } from './request';

/** Peaks and loudness of the loudest passage where a step begins to work, and what is still to come. */
export interface Entering {
  /** dBTP */
  peakDbtp: number;
  /** What the whole track comes to there, in LUFS. */
  integratedLufs: number;
}

/** A record that the balance is brought closer to: levels by third-octaves in dB, null where it has nothing. */
export interface DraftReference {
  name: string;
  balanceDb: readonly (number | null)[];
}

/** What a rule knows when it decides about its step. */
export interface DraftContext {
  mix: MixReading;
  destination: Destination;
  /** LUFS that the draft is solved to, and the ceiling in dBTP. */
  aim: { lufs: number; ceilingDbtp: number };
  /** Whether the mix meets the destination as it is: then hardly anything is done. */
  meets: boolean;
  limits: DraftLimits;
  intensityPercent: number;
  character: Character;
  /** What the balance is brought closer to; null: what records have on average. */
  reference: DraftReference | null;
  entering: Entering;
  /** 0 … 1.5 of what the rule would do by itself. */
  strength: number;
}

/** What a rule decided. */
export interface RuleOutcome {
  /** The reason, with its figures. */
  reason: string;
  /** Null where nothing is needed. */
  stage: Stage | null;
  /** A threshold that is still to be found: where the stage takes so many dB at most in the loudest passage. */
  seeks?: { reductionDb: number; minDb: number; maxDb: number; at: (thresholdDb: number) => Stage };
}

/** One rule of the first draft. */
export interface DraftRule {
  id: DraftStepId;
  decide(context: DraftContext): RuleOutcome;
}

/** dB by which the peaks of the loudest passage will pass the ceiling at the loudness that is aimed for. */
export function excessDb({ aim, entering }: Pick<DraftContext, 'aim' | 'entering'>): number {
  return entering.peakDbtp + (aim.lufs - entering.integratedLufs) - aim.ceilingDbtp;
}

/** Less than this is not worth a stage, dB. */
export const LEAST_DB = 0.3;

/** To a tenth of a dB. */
export const tenth = (db: number) => Math.round(10 * db) / 10;

/** Ceiling and input gain in dB of a stage that holds peaks at a level, where its ceiling goes from `lowestDb` to 0. */
export function heldAt(levelDb: number, lowestDb: number): { inputGainDb: number; ceilingDb: number } {
  const ceilingDb = Math.max(lowestDb, Math.min(0, tenth(levelDb)));
  return { ceilingDb, inputGainDb: Math.max(-12, Math.min(24, tenth(ceilingDb - levelDb))) };
}

/** A step of a draft as it is shown. */
export interface DraftStep {
  id: DraftStepId;
  reason: string;
  /** Whether there is something to do; what is not needed can’t be refused. */
  needed: boolean;
  on: boolean;
  strengthPercent: number;
  /** Id of its stage in the lane; null without one. */
  stageId: string | null;
  /** dB that its stage takes at most in the loudest passage; null where it takes nothing. */
  takesDb: number | null;
}
