import { z } from 'zod';
import type { IntakeReport } from '../core/measure/intake-report';

export const newReleaseSchema = z.strictObject({
  title: z.string().trim().min(1, 'Give the release a title.').max(120, 'The title can have up to 120 characters.'),
  artist: z.string().trim().max(120, 'The artist can have up to 120 characters.').default(''),
});

export type NewRelease = z.infer<typeof newReleaseSchema>;

export interface ReleaseSummary {
  id: string;
  title: string;
  artist: string;
  tracks: number;
  deliveries: number;
  createdAt: string;
}

/** Some of an account's releases, the newest first. */
export interface ReleasePage {
  releases: ReleaseSummary[];
  /** What to ask for to get those that follow; null at the end. */
  next: string | null;
}

export type MixStatus = 'waiting' | 'analysing' | 'ready' | 'refused';

export const chosenMixSchema = z.strictObject({ mixId: z.uuid('Say which mix.') });

/** How a newer mix lies beside an older one. */
export interface LinedUp {
  /** Number of the older mix. */
  toMix: number;
  /** `found`: moved into its time; `different`: too unlike to tell; `soundBefore`: it begins with sound that moving would cut off. */
  outcome: 'found' | 'different' | 'soundBefore';
  /** Frames by which the newer file begins later; negative when earlier; 0 when they do not agree. */
  offsetFrames: number;
  offsetMs: number;
  agreement: number;
}

export interface MixSummary {
  id: string;
  number: number;
  fileName: string;
  status: MixStatus;
  progress: number;
  refusal: string | null;
  /** Why it waits although its turn has come, as a sentence; null when nothing holds it up. */
  heldBecause: string | null;
  source: { container: string; codec: string; sampleRate: number; bits: number; float: boolean; channels: number };
  /** Of the mix that is used, and of the one it is compared with. */
  report: IntakeReport | null;
  /** Null for a first mix. */
  linedUp: LinedUp | null;
}

export interface TrackSummary {
  id: string;
  title: string;
  position: number;
  /** The mix that is used: the chosen one, else the newest that is ready, else the newest. */
  mix: MixSummary | null;
  /** Mixes, the newest first: a few of them in the list of a release. */
  mixes: MixSummary[];
  deliveries: number;
}

export interface ReleaseDetail {
  id: string;
  title: string;
  artist: string;
  tracks: TrackSummary[];
}
