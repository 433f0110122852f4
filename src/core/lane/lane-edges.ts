import { WHOLE_MIX, type Edges } from '../sequence/edges';
import { sameData } from './same-data';
import type { Lane } from './schema';

/** A lane with other edges; those of the whole mix are left out. */
export function withEdges({ edges: _, ...lane }: Lane, edges: Edges): Lane {
  return sameData(edges, WHOLE_MIX) ? lane : { ...lane, edges };
}

/** A lane that was made elsewhere, on the track of another: where that track starts and ends stays. */
export function withEdgesOf(lane: Lane, { edges }: Lane): Lane {
  return withEdges(lane, edges ?? WHOLE_MIX);
}
