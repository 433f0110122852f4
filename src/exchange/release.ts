import { z } from 'zod';
import type { IntakeReport } from '../core/measure/intake-report';

export const newReleaseSchema = z.strictObject({
  title: z.string().trim().min(1, 'Give the release a title.').max(120, 'The title may have 120 characters.'),
  artist: z.string().trim().max(120, 'The artist may have 120 characters.').default(''),
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

export type MixStatus = 'waiting' | 'analysing' | 'ready' | 'refused';

export interface MixSummary {
  id: string;
  number: number;
  fileName: string;
  status: MixStatus;
  progress: number;
  refusal: string | null;
  source: { container: string; codec: string; sampleRate: number; bits: number; float: boolean; channels: number };
  report: IntakeReport | null;
}

export interface TrackSummary {
  id: string;
  title: string;
  position: number;
  mix: MixSummary | null;
  deliveries: number;
}

export interface ReleaseDetail {
  id: string;
  title: string;
  artist: string;
  tracks: TrackSummary[];
}
