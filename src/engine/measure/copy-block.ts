/** Copies a block from a position on, with silence after the end of the source. */
export function copyBlock(source: Float32Array | Float64Array, position: number, block: Float64Array): void {
  const end = Math.min(source.length, position + block.length);
  const present = Math.max(0, end - position);
  if (present > 0) block.set(source.subarray(position, end));
  block.fill(0, present);
}
