/** Presses that are under way, of any button, pen or finger. */
const held = new Set<number>();
let count = 0;
const waiting = new Set<() => void>();

function release(id: number | null): void {
  if (id === null) held.clear();
  else held.delete(id);
  if (held.size > 0) return;
  const told = [...waiting];
  waiting.clear();
  for (const tell of told) tell();
}

if (typeof document !== 'undefined') {
  const options = { capture: true, passive: true };
  document.addEventListener(
    'pointerdown',
    ({ pointerId }) => {
      if (held.size === 0) count++;
      held.add(pointerId);
    },
    options,
  );
  for (const name of ['pointerup', 'pointercancel'] as const)
    document.addEventListener(name, ({ pointerId }) => release(pointerId), options);
  // What is let go outside of the page is not told.
  window.addEventListener('blur', () => release(null));
}

/** Number of the gesture under way, from press to release; null while nothing is held. */
export function gesture(): number | null {
  return held.size > 0 ? count : null;
}

/** Tells once when nothing is held any more; at once when nothing is. */
export function onRelease(tell: () => void): void {
  if (held.size === 0) tell();
  else waiting.add(tell);
}
