import type { Candidate } from '../../../contracts/candidate';

/** What a candidate is drawn in: copper for what came in, patina for what goes out, ink for what is neither. */
export function candidateInk(kind: Candidate['kind']): 'copper' | 'patina' | 'ink' {
  if (kind === 'reference') return 'ink';
  return kind === 'mix' ? 'copper' : 'patina';
}
