/** The part of a track in view, in frames. */
export interface View {
  start: number;
  end: number;
}

/** No closer than this many frames. */
const LEAST_FRAMES = 64;
const ZOOM_STEP = 1.2;

/** A view zoomed by one step around a frame: in below 0, out above. Null: the whole track. */
export function zoomed({ start, end }: View, frames: number, at: number, direction: number): View | null {
  const span = end - start;
  const next = Math.max(LEAST_FRAMES, Math.min(frames, span * ZOOM_STEP ** Math.sign(direction)));
  if (next >= frames) return null;
  const from = Math.max(0, Math.min(frames - next, at - ((at - start) / span) * next));
  return { start: from, end: from + next };
}

/** A view moved by a share of its width, as far as the track goes. */
export function panned({ start, end }: View, frames: number, share: number): View {
  const shift = Math.max(-start, Math.min(frames - end, share * (end - start)));
  return { start: start + shift, end: end + shift };
}
