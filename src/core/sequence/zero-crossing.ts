/**
 * The frame nearest to one at which the sum of both channels crosses zero, or is zero, within a distance in frames: a cut there
 * clicks least. The frame itself where there is none.
 */
export function zeroCrossingNear(left: Float32Array, right: Float32Array, frame: number, within: number): number {
  const sum = (at: number) => left[at] + right[at];
  const crosses = (at: number) =>
    at > 0 && at < left.length && (sum(at) === 0 || (sum(at - 1) < 0 ? sum(at) > 0 : sum(at) < 0 && sum(at - 1) > 0));
  for (let distance = 0; distance <= within; distance++) {
    if (crosses(frame - distance)) return frame - distance;
    if (crosses(frame + distance)) return frame + distance;
  }
  return frame;
}
