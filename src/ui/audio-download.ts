/** What happens to audio while it arrives. */
export interface Arrival {
  /** Takes the next bytes; what follows waits for that. */
  take: (bytes: Uint8Array) => Promise<void>;
  onShare: (share: number) => void;
  /** Bytes of all of it, about, where the server can't tell because it converts the audio as it sends it. */
  about?: number;
  signal?: AbortSignal;
}

/** Fetches audio, gives its bytes as they arrive, and tells how far it is. Throws an Error with a sentence. */
export async function downloadAudio(path: string, { take, onShare, about, signal }: Arrival): Promise<void> {
  // The whole file as a range: only then does the answer tell how large it is.
  const response = await fetch(path, { headers: { Range: 'bytes=0-' }, ...(signal && { signal }) });
  const total = Number(/\/(\d+)$/.exec(response.headers.get('content-range') ?? '')?.[1] ?? about);
  if (!response.ok || !response.body || !(total > 0)) {
    throw new Error('The audio could not be loaded. Reload the page to try again.');
  }
  const reader = response.body.getReader();
  for (let at = 0; ;) {
    const { done, value } = await reader.read();
    if (done) break;
    await take(value);
    at += value.length;
    onShare(Math.min(1, at / total));
  }
}
