/** How much a stage reduced, in dB. */
export interface ReductionSummary {
  most: number;
  /** The level that it stays below for three quarters of the time. */
  typical: number;
}

/** More than this on the loudest passage is audible (common practice, no source). */
export const MUCH_REDUCTION_DB = 3;

/** Summary of a trace of gain reductions. */
export function summariseReduction(trace: Float32Array): ReductionSummary {
  const sorted = Float32Array.from(trace).sort();
  if (sorted.length === 0) return { most: 0, typical: 0 };
  return { most: sorted[sorted.length - 1], typical: sorted[Math.floor(sorted.length * 0.75)] };
}
