import { Fft } from '../signal/fft';

/** How far apart two mixes of a piece may begin, in seconds. */
export const SEARCH_SECONDS = 3;
/** Length of the passage that is looked for. */
export const PASSAGE_SECONDS = 2;
/** Mixes that agree less than this are not the same piece, or not in the same time (common practice, no source). */
const AGREEMENT = 0.4;

/** Where a passage of an older mix is in a newer one. */
export interface Alignment {
  /** Frames by which the newer mix is late; negative when it is early. */
  offsetFrames: number;
  /** Correlation of both mixes there, 1 for equal ones. */
  agreement: number;
}

/** Reduces the weight of the bass, which can't locate anything exactly. */
function brightened(x: Float32Array): Float64Array {
  return Float64Array.from(x, (value, i) => value - 0.95 * (x[i - 1] ?? 0));
}

/**
 * Cross-correlation with equal weight for every frequency: C. Knapp, G. Carter, "The generalized correlation method",
 * 1976 (from memory).
 */
function phaseCorrelation(passage: Float64Array, within: Float64Array): Float64Array {
  const size = 2 ** Math.ceil(Math.log2(within.length + passage.length));
  const fft = new Fft(size);
  const spectrum = (x: Float64Array) => {
    const re = new Float64Array(size);
    const im = new Float64Array(size);
    re.set(x);
    fft.transform(re, im);
    return { re, im };
  };
  const a = spectrum(passage);
  const b = spectrum(within);
  for (let k = 0; k < size; k++) {
    // The conjugate of B·conj(A), so that one more forward transform goes back.
    const re = b.re[k] * a.re[k] + b.im[k] * a.im[k];
    const im = b.re[k] * a.im[k] - b.im[k] * a.re[k];
    const weight = 1 / (Math.hypot(re, im) + 1e-9);
    b.re[k] = re * weight;
    b.im[k] = im * weight;
  }
  fft.transform(b.re, b.im);
  return b.re.subarray(0, within.length - passage.length + 1);
}

function correlation(a: Float64Array, b: Float64Array): number {
  let [ab, aa, bb] = [0, 0, 0];
  for (let i = 0; i < a.length; i++) {
    ab += a[i] * b[i];
    aa += a[i] * a[i];
    bb += b[i] * b[i];
  }
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
}

/**
 * Finds a passage of an older mix (mid signal) in a newer one. `within` is the newer mix from `lead` frames before the
 * place where the passage lies in the older one. Null when they do not agree anywhere.
 */
export function align(passage: Float32Array, within: Float32Array, lead: number): Alignment | null {
  const sought = brightened(passage);
  const field = brightened(within);
  const likeness = phaseCorrelation(sought, field);
  let best = 0;
  for (let i = 1; i < likeness.length; i++) if (likeness[i] > likeness[best]) best = i;
  const agreement = correlation(sought, field.subarray(best, best + sought.length));
  return agreement < AGREEMENT ? null : { offsetFrames: best - lead, agreement };
}
