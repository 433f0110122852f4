import { lazyStream } from './lazy-stream';

/** A source that notes what is done with it. */
function source(pieces = 3) {
  const seen: string[] = [];
  const begin = async function* () {
    seen.push('begun');
    try {
      for (let i = 0; i < pieces; i++) yield await Promise.resolve(Uint8Array.of(i));
    } finally {
      seen.push('cleaned');
    }
  };
  return { seen, begin, onEnd: () => seen.push('ended') };
}
const never = new AbortController().signal;

test('what nobody reads does not begin, and ends when it is cancelled', async () => {
  const { seen, begin, onEnd } = source();
  const stream = lazyStream(begin, never, onEnd);
  await new Promise(setImmediate);
  expect(seen).toEqual([]);
  await stream.cancel();
  expect(seen).toEqual(['ended']);
});

test('what is read to its end arrives whole, and ends once', async () => {
  const { seen, begin, onEnd } = source();
  const bytes = await new Response(lazyStream(begin, never, onEnd)).arrayBuffer();
  expect([...new Uint8Array(bytes)]).toEqual([0, 1, 2]);
  expect(seen).toEqual(['begun', 'cleaned', 'ended']);
});

test('a reader that goes in the middle, or whose request is aborted, ends it', async () => {
  const first = source();
  const reader = lazyStream(first.begin, never, first.onEnd).getReader();
  await reader.read();
  await reader.cancel();
  expect(first.seen).toEqual(['begun', 'cleaned', 'ended']);
  const second = source();
  const request = new AbortController();
  const other = lazyStream(second.begin, request.signal, second.onEnd).getReader();
  await other.read();
  request.abort();
  await expect(other.read()).rejects.toThrow('The reader has gone.');
  expect(second.seen).toEqual(['begun', 'cleaned', 'ended']);
});

test('a reader that stalls ends it, whether it ever began to read or not', async () => {
  for (const reads of [0, 1]) {
    const { seen, begin, onEnd } = source();
    const stalled = new Promise<void>((resolve) => {
      const reader = lazyStream(begin, never, () => (onEnd(), resolve()), 1).getReader();
      for (let i = 0; i < reads; i++) void reader.read();
    });
    await stalled;
    expect(seen).toEqual(reads === 0 ? ['ended'] : ['begun', 'cleaned', 'ended']);
  }
});

test('an error of the source reaches the reader, and ends it', async () => {
  const seen: string[] = [];
  const begin = async function* (): AsyncGenerator<Uint8Array, void, undefined> {
    throw await Promise.resolve(new Error('The file is damaged.'));
  };
  const stream = lazyStream(begin, never, () => void seen.push('ended'));
  await expect(new Response(stream).arrayBuffer()).rejects.toThrow('The file is damaged.');
  expect(seen).toEqual(['ended']);
});
