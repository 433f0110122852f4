import { z } from 'zod';
import { OBSERVATION_KINDS, type ObservationKind } from '../../../core/draft/observations/observation';
import { remembered } from '../../kit/remembered';

const mutedSchema = z.object({ kinds: z.array(z.enum(OBSERVATION_KINDS)).default([]) });

/** Kinds of observations that are not shown in this browser. */
export const useMuted = remembered('muted-observations', mutedSchema);

export function mute(kind: ObservationKind): void {
  useMuted.setState(({ kinds }) => ({ kinds: [...kinds.filter((each) => each !== kind), kind] }));
}

export function unmute(kind: ObservationKind): void {
  useMuted.setState(({ kinds }) => ({ kinds: kinds.filter((each) => each !== kind) }));
}
