import { TAP_FRAMES, type Taps } from '../../../engine/live/protocol';

/** The newest frames of one channel before a stage, in time with those after it. */
export interface LiveWindow {
  before: Float32Array;
  after: Float32Array;
}

/** Reads the newest `frames` of a channel from the taps, of which those before the stage lead by `lead` frames. */
export function liveWindow(taps: Taps, channel: 'left' | 'right', frames: number, lead: number): LiveWindow {
  const sign = channel === 'left' ? 1 : -1;
  const [written] = taps.written;
  const read = (mid: Float32Array, difference: Float32Array, ago: number) =>
    Float32Array.from({ length: frames }, (_, i) => {
      const at = (written - ago - frames + i + 4 * TAP_FRAMES) % TAP_FRAMES;
      return mid[at] + sign * difference[at];
    });
  return { before: read(taps.before, taps.beforeSide, lead), after: read(taps.after, taps.afterSide, 0) };
}

/** Most frames that can be read with such a lead. */
export function mostFrames(lead: number): number {
  return TAP_FRAMES - lead - 1024;
}
