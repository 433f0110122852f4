/**
 * Fetches a mix as it was uploaded, gives its bytes as they arrive, and tells how far it is. Throws an Error with a
 * sentence.
 */
export async function downloadMix(
  mixId: string,
  take: (bytes: Uint8Array) => Promise<void>,
  onShare: (share: number) => void,
): Promise<void> {
  // The whole file as a range: only then does the answer tell how large it is.
  const response = await fetch(`/api/mixes/${mixId}/audio`, { headers: { Range: 'bytes=0-' } });
  const total = Number(/\/(\d+)$/.exec(response.headers.get('content-range') ?? '')?.[1]);
  if (!response.ok || !response.body || !(total > 0)) {
    throw new Error('The mix could not be loaded. Reload the page to try again.');
  }
  const reader = response.body.getReader();
  for (let at = 0; ;) {
    const { done, value } = await reader.read();
    if (done) break;
    await take(value);
    at += value.length;
    onShare(at / total);
  }
}
