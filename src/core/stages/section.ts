import { SECTION_A1, SECTION_A2, SECTION_B0, SECTION_B1, SECTION_B2, SECTION_S1 } from '../kernels/layout';
import type { Biquad } from '../signal/biquad';

const FIELDS: readonly [keyof Biquad, number][] = [
  ['b0', SECTION_B0],
  ['b1', SECTION_B1],
  ['b2', SECTION_B2],
  ['a1', SECTION_A1],
  ['a2', SECTION_A2],
];
/** Two states, each for both channels. */
const STATES = 4;

/** Writes the coefficients of a section for the first and the second channel of a pair. */
export function writeSection(f64: Float64Array, address: number, first: Biquad, second: Biquad): void {
  for (const [name, offset] of FIELDS) {
    f64[(address + offset) >> 3] = first[name];
    f64[((address + offset) >> 3) + 1] = second[name];
  }
}

/** Lets a section continue from another, with the states of both channels scaled. */
export function copySectionState(f64: Float64Array, from: number, to: number, first = 1, second = 1): void {
  const source = (from + SECTION_S1) >> 3;
  const target = (to + SECTION_S1) >> 3;
  for (let i = 0; i < STATES; i += 2) {
    f64[target + i] = f64[source + i] * first;
    f64[target + i + 1] = f64[source + i + 1] * second;
  }
}

/** Lets a section begin in silence. */
export function clearSection(f64: Float64Array, address: number): void {
  const states = (address + SECTION_S1) >> 3;
  f64.fill(0, states, states + STATES);
}
