const TIME = /^(?:(\d{1,4}):)?(\d{1,5}(?:[.,]\d{0,9})?)$/;

/** Seconds of a time as people type it: "1:23.456", "83.456", with comma or point; null where it is none. */
export function typedTime(text: string): number | null {
  const found = TIME.exec(text.replace(/\s/g, '').replace(/s$/, ''));
  if (!found) return null;
  const seconds = Number(found[2].replace(',', '.'));
  return found[1] !== undefined && seconds >= 60 ? null : 60 * Number(found[1] ?? 0) + seconds;
}
