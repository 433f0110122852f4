/** Frames of audio that is converted to another sample rate: what the server sends, and the page expects. */
export function framesAtRate(frames: number, fromHz: number, toHz: number): number {
  return Math.round((frames * toHz) / fromHz);
}
