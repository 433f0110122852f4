import { z } from 'zod';
import { draftWishesSchema } from '../../../core/draft/first-draft/request';
import { remembered } from '../../kit/remembered';

/** Tracks whose wishes are remembered, at most. */
const MOST_TRACKS = 60;

const kept = z.object({
  trackId: z.string(),
  destinationId: z.string(),
  /** Null: what records have on average. */
  referenceId: z.string().nullable(),
  wishes: draftWishesSchema,
});
export type KeptWishes = z.infer<typeof kept>;

const useKept = remembered('first-drafts', z.object({ tracks: z.array(kept).default([]) }));

/** How the last draft of a track was wanted, in this browser. */
export function wishesOf(trackId: string): KeptWishes | undefined {
  return useKept.getState().tracks.find((each) => each.trackId === trackId);
}

/** Remembers how a draft of a track was wanted. */
export function keepWishes(wishes: KeptWishes): void {
  const others = useKept.getState().tracks.filter(({ trackId }) => trackId !== wishes.trackId);
  useKept.setState({ tracks: [wishes, ...others].slice(0, MOST_TRACKS) });
}
