/** Keeps a text under a name in this browser, where it lets us: full or forbidden storage loses a convenience and no work. */
export function keepText(key: string, text: string): boolean {
  try {
    globalThis.localStorage?.setItem(key, text);
    return true;
  } catch {
    return false;
  }
}
