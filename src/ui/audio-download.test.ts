import { downloadAudio } from './audio-download';

/** A server that sends bytes in pieces. */
function serve(pieces: number[], range: string | null, status = 206): void {
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      let next = 0;
      for (const size of pieces) controller.enqueue(Uint8Array.from({ length: size }, () => next++));
      controller.close();
    },
  });
  const headers: Record<string, string> = range === null ? {} : { 'content-range': range };
  globalThis.fetch = jest.fn(() => Promise.resolve(new Response(body, { status, headers })));
}

test('a mix arrives piece by piece, and tells how far it is', async () => {
  serve([3, 5, 2], 'bytes 0-9/10');
  const shares: number[] = [];
  const bytes: number[] = [];
  const take = async (piece: Uint8Array) => {
    // The next piece waits until this one is taken.
    await Promise.resolve();
    bytes.push(...piece);
  };
  await downloadAudio('/api/mixes/m/audio', { take, onShare: (share) => shares.push(share) });
  expect(bytes).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9]);
  expect(shares).toEqual([0.3, 0.8, 1]);
  expect(globalThis.fetch).toHaveBeenCalledWith('/api/mixes/m/audio', { headers: { Range: 'bytes=0-' } });
});

test.each([
  ['is refused', 'bytes 0-9/10', 409],
  ['does not say how large it is', null, 200],
  ['is empty', 'bytes 0-0/0', 206],
])('an answer that %s is told in words', async (_, range, status) => {
  serve([1], range, status);
  const arrival = { take: () => Promise.resolve(), onShare: () => {} };
  await expect(downloadAudio('/api/mixes/m/audio', arrival)).rejects.toThrow(
    'The audio could not be loaded. Reload the page to try again.',
  );
});

test('where the server converts as it sends, the share is of about so many bytes', async () => {
  serve([8, 8, 8], null, 200);
  const shares: number[] = [];
  const onShare = (share: number) => shares.push(share);
  await downloadAudio('/api/mixes/m/audio?rate=48000', { take: () => Promise.resolve(), onShare, about: 16 });
  expect(shares).toEqual([0.5, 1, 1]);
});
