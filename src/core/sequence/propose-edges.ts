import type { IntakeReport } from '../measure/intake-report';
import { edgesSchema, SHORTEST_SECONDS, type Edges } from './edges';

/** Seconds kept before the first sound, so that nothing of its onset is lost (common practice, no source). */
const LEAD_SECONDS = 0.05;
/** Fade over what is kept before it: noise begins softly. */
const FADE_IN_SECONDS = 0.02;
/** Seconds kept after the last sound, over which it fades: what is below the threshold of silence still decays. */
const TAIL_SECONDS = 1;

/** Edges where a mix begins and ends to sound, from the silence that intake found; null where there is none to cut. */
export function proposeEdges({
  headSeconds,
  tailSeconds,
  durationSeconds,
}: Pick<IntakeReport, 'headSeconds' | 'tailSeconds' | 'durationSeconds'>): Edges | null {
  const start = Math.max(0, headSeconds - LEAD_SECONDS);
  const end = Math.min(durationSeconds, durationSeconds - tailSeconds + TAIL_SECONDS);
  if ((start === 0 && end === durationSeconds) || end - start < SHORTEST_SECONDS) return null;
  return edgesSchema.parse({
    startSeconds: start,
    endSeconds: end === durationSeconds ? null : end,
    fadeIn: { seconds: start > 0 ? FADE_IN_SECONDS : 0 },
    fadeOut: { seconds: end < durationSeconds ? TAIL_SECONDS : 0 },
  });
}
