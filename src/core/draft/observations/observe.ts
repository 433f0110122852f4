import { cancelling } from './cancelling';
import { encodeOvers } from './encode-overs';
import { idle } from './idle';
import { limiting } from './limiting';
import { loudnessChange } from './loudness-change';
import type { Observation, ObservedMaster, Rule } from './observation';
import { rattle } from './rattle';
import { wideBass } from './wide-bass';

/** From what is heard most to what only tidies up. */
const RULES: readonly Rule[] = [limiting, rattle, encodeOvers, wideBass, cancelling, loudnessChange, idle];

/** What is worth a look in a master, from its last measurement; empty where nothing is. */
export function observe(master: ObservedMaster): Observation[] {
  return RULES.flatMap((rule) => rule(master));
}
