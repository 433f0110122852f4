/** Whether two JSON values are equal. Allocates nothing: it runs in the audio thread, on every edit. */
export function sameData(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a)) {
    if (!Array.isArray(b) || a.length !== b.length) return false;
    for (let i = 0; i < a.length; i++) if (!sameData(a[i], b[i])) return false;
    return true;
  }
  if (Array.isArray(b)) return false;
  const [left, right] = [a as Record<string, unknown>, b as Record<string, unknown>];
  let more = 0;
  for (const key in left) {
    if (!Object.hasOwn(right, key) || !sameData(left[key], right[key])) return false;
    more++;
  }
  for (const _ in right) more--;
  return more === 0;
}
