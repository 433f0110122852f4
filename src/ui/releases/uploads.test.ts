import { useUploads } from './uploads';

/** Uploads and requests as the page would make them; each is answered by the test. */
interface Sending {
  name: string;
  onProgress: (share: number) => void;
  arrive: (id: string) => void;
  fail: (error: Error) => void;
  cancelled: boolean;
}
const mockSendings: Sending[] = [];
const mockSend = jest.fn<Promise<unknown>, [string, object]>();
jest.mock('../api', () => ({
  send: (path: string, options: object) => mockSend(path, options),
  upload: (file: { name: string }, onProgress: (share: number) => void) => {
    const sending = { name: file.name, onProgress, cancelled: false } as Sending;
    const done = new Promise<string>((resolve, reject) => Object.assign(sending, { arrive: resolve, fail: reject }));
    mockSendings.push(sending);
    const cancel = () => {
      sending.cancelled = true;
      sending.fail(new Error('The upload was cancelled. Nothing was kept.'));
    };
    return { done, cancel };
  },
}));

const settle = () => new Promise((resolve) => setImmediate(resolve));
const file = (name: string) => ({ name }) as File;
const rows = () => useUploads.getState().rows;

beforeEach(() => {
  mockSendings.length = 0;
  mockSend.mockReset().mockResolvedValue({});
  useUploads.setState({ rows: [], taken: 0 });
});

test('files go one after another, each as a track of the release', async () => {
  const done = useUploads.getState().send('r', [{ file: file('a.wav'), title: 'A' }, { file: file('b & c.wav') }]);
  expect(rows().map(({ fileName }) => fileName)).toEqual(['a.wav', 'b & c.wav']);
  expect(mockSendings.map(({ name }) => name)).toEqual(['a.wav']);
  mockSendings[0].onProgress(0.5);
  expect(rows()[0].share).toBe(0.5);
  mockSendings[0].arrive('one');
  await settle();
  expect(rows().map(({ fileName }) => fileName)).toEqual(['b & c.wav']);
  expect(useUploads.getState().taken).toBe(1);
  mockSendings[1].arrive('two');
  await done;
  expect(rows()).toEqual([]);
  expect(mockSend.mock.calls).toEqual([
    ['/api/releases/r/mixes', { method: 'POST', body: { upload: 'one', name: 'a.wav', title: 'A' } }],
    ['/api/releases/r/mixes', { method: 'POST', body: { upload: 'two', name: 'b & c.wav' } }],
  ]);
});

test('a corrected mix goes to its track', async () => {
  void useUploads.getState().send('r', [{ file: file('mix 2.wav') }], 't');
  expect(rows()[0]).toMatchObject({ releaseId: 'r', trackId: 't' });
  mockSendings[0].arrive('one');
  await settle();
  expect(mockSend.mock.calls[0][0]).toBe('/api/tracks/t/mixes');
});

test('a refusal stays until it is read, in the server’s words, and the next file goes on', async () => {
  void useUploads.getState().send('r', [{ file: file('bad.wav') }, { file: file('good.wav') }]);
  mockSend.mockRejectedValueOnce(new Error('This is not a readable audio file.'));
  mockSendings[0].arrive('one');
  await settle();
  expect(rows()[0].problem).toBe('bad.wav: This is not a readable audio file.');
  expect(mockSendings).toHaveLength(2);
  useUploads.getState().dismiss(rows()[0].key);
  mockSendings[1].arrive('two');
  await settle();
  expect(rows()).toEqual([]);
  expect(useUploads.getState().taken).toBe(1);
});

test('what waits can be taken back before it is sent, and what is on its way cancelled', async () => {
  void useUploads.getState().send('r', [{ file: file('a.wav') }, { file: file('b.wav') }]);
  rows()[1].cancel();
  rows()[0].cancel();
  await settle();
  expect(mockSendings).toHaveLength(1);
  expect(mockSendings[0].cancelled).toBe(true);
  expect(rows().map(({ problem }) => problem)).toEqual(['a.wav: The upload was cancelled. Nothing was kept.']);
});
