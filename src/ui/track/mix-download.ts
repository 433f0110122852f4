/** Share of the way that the download takes; decoding is the rest. */
const DOWNLOAD_SHARE = 0.9;

/** Fetches a mix as it was uploaded and tells how far it is. Throws an Error with a sentence. */
export async function downloadMix(mixId: string, onShare: (share: number) => void): Promise<ArrayBuffer> {
  // The whole file as a range: only then does the answer tell how large it is.
  const response = await fetch(`/api/mixes/${mixId}/audio`, { headers: { Range: 'bytes=0-' } });
  const total = Number(/\/(\d+)$/.exec(response.headers.get('content-range') ?? '')?.[1]);
  if (!response.ok || !response.body || !(total > 0)) {
    throw new Error('The mix could not be loaded. Reload the page to try again.');
  }
  const bytes = new Uint8Array(total);
  const reader = response.body.getReader();
  for (let at = 0; ;) {
    const { done, value } = await reader.read();
    if (done) break;
    bytes.set(value, at);
    at += value.length;
    onShare((DOWNLOAD_SHARE * at) / total);
  }
  return bytes.buffer;
}
