import { useUploads } from './uploads';

/** Requests as the browser would make them; each is answered by the test. */
class Request {
  static made: Request[] = [];
  upload: { onprogress?: (event: { loaded: number; total: number }) => void } = {};
  address = '';
  status = 0;
  responseText = '';
  aborted = false;
  onload?: () => void;
  onabort?: () => void;
  constructor() {
    Request.made.push(this);
  }
  open(_method: string, address: string) {
    this.address = address;
  }
  send() {}
  abort() {
    this.aborted = true;
    this.onabort?.();
  }
  answer(status: number, body: object) {
    this.status = status;
    this.responseText = JSON.stringify(body);
    this.onload?.();
  }
}

const settle = () => new Promise((resolve) => setImmediate(resolve));
const file = (name: string) => ({ name }) as File;
const rows = () => useUploads.getState().rows;

beforeEach(() => {
  Request.made = [];
  Object.assign(globalThis, { XMLHttpRequest: Request });
  useUploads.setState({ rows: [], taken: 0 });
});

test('files go one after another, each as a track of the release', async () => {
  const done = useUploads.getState().send('r', [file('a.wav'), file('b & c.wav')]);
  expect(rows().map(({ fileName }) => fileName)).toEqual(['a.wav', 'b & c.wav']);
  expect(Request.made.map(({ address }) => address)).toEqual(['/api/releases/r/mixes?name=a.wav']);
  Request.made[0].upload.onprogress!({ loaded: 30, total: 60 });
  expect(rows()[0].share).toBe(0.5);
  Request.made[0].answer(201, {});
  await settle();
  expect(rows().map(({ fileName }) => fileName)).toEqual(['b & c.wav']);
  expect(useUploads.getState().taken).toBe(1);
  expect(Request.made[1].address).toBe('/api/releases/r/mixes?name=b%20%26%20c.wav');
  Request.made[1].answer(201, {});
  await done;
  expect(rows()).toEqual([]);
});

test('a corrected mix goes to its track', async () => {
  void useUploads.getState().send('r', [file('mix 2.wav')], 't');
  expect(Request.made[0].address).toBe('/api/tracks/t/mixes?name=mix%202.wav');
  expect(rows()[0]).toMatchObject({ releaseId: 'r', trackId: 't' });
  Request.made[0].answer(201, {});
  await settle();
});

test('a refusal stays until it is read, in the server’s words, and the next file goes on', async () => {
  void useUploads.getState().send('r', [file('bad.wav'), file('good.wav')]);
  Request.made[0].answer(422, { error: 'This is not an audio file that can be read.' });
  await settle();
  expect(rows()[0].problem).toBe('bad.wav: This is not an audio file that can be read.');
  expect(Request.made).toHaveLength(2);
  useUploads.getState().dismiss(rows()[0].key);
  Request.made[1].answer(201, {});
  await settle();
  expect(rows()).toEqual([]);
  expect(useUploads.getState().taken).toBe(1);
});

test('what waits can be taken back before it is sent, and what is on its way cancelled', async () => {
  void useUploads.getState().send('r', [file('a.wav'), file('b.wav')]);
  rows()[1].cancel();
  rows()[0].cancel();
  await settle();
  expect(Request.made).toHaveLength(1);
  expect(Request.made[0].aborted).toBe(true);
  expect(rows().map(({ problem }) => problem)).toEqual(['a.wav: The upload was cancelled. Nothing was kept.']);
});
