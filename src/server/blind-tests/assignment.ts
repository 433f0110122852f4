import { randomInt } from 'node:crypto';
import type { Assignment, BlindKind } from '../../core/blind/result';

/** Some places in random order, each order as likely as any other (Fisher and Yates, from memory). */
function shuffled(count: number): number[] {
  const places = Array.from({ length: count }, (_, i) => i);
  for (let i = count - 1; i > 0; i--) {
    const k = randomInt(i + 1);
    [places[i], places[k]] = [places[k], places[i]];
  }
  return places;
}

/** Draws which sound each letter is, trial by trial: X of two, or all of them in random order. */
export function assign(kind: BlindKind, sounds: number, trials: number): Assignment {
  return Array.from({ length: trials }, () => (kind === 'tell' ? [randomInt(2)] : shuffled(sounds)));
}
