/**
 * Seeded random numbers, xoshiro128** (D. Blackman, S. Vigna, "Scrambled Linear Pseudorandom Number Generators"; from
 * memory), seeded by SplitMix32. The same seed gives the same sequence on every machine.
 */
export class Random {
  /** What the next numbers follow from. */
  readonly state = new Uint32Array(4);

  constructor(seed: number) {
    let s = seed >>> 0;
    for (let i = 0; i < 4; i++) {
      s = (s + 0x9e3779b9) >>> 0;
      let z = s;
      z = Math.imul(z ^ (z >>> 16), 0x85ebca6b);
      z = Math.imul(z ^ (z >>> 13), 0xc2b2ae35);
      this.state[i] = z ^ (z >>> 16);
    }
  }

  /** Uniform 32-bit unsigned integer. */
  integer(): number {
    const s = this.state;
    const x = Math.imul(s[1], 5);
    const result = Math.imul((x << 7) | (x >>> 25), 9) >>> 0;
    const t = s[1] << 9;
    s[2] ^= s[0];
    s[3] ^= s[1];
    s[1] ^= s[2];
    s[0] ^= s[3];
    s[2] ^= t;
    s[3] = (s[3] << 11) | (s[3] >>> 21);
    return result;
  }

  /** Uniform in [0, 1). */
  uniform(): number {
    return this.integer() / 4294967296;
  }

  /** Triangular in (−1, 1): the difference of two uniform numbers. */
  triangular(): number {
    return this.uniform() - this.uniform();
  }
}
