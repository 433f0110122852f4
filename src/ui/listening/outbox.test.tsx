import { sendNote, sendWaiting, waitingNotes } from './outbox';

const note = (text: string) => ({ trackId: 'a', seconds: 3, text, author: 'Dana' });
const sent: string[] = [];
let answer: () => Promise<Partial<Response>>;
const offline = () => Promise.reject(new TypeError('no connection'));
const answering = (status: number) => () =>
  Promise.resolve({ status, ok: status < 400, json: () => Promise.resolve({ error: `refused with ${status}` }) });

beforeEach(() => {
  localStorage.clear();
  sent.length = 0;
  global.fetch = ((_: string, { body }: { body: string }) => {
    sent.push((JSON.parse(body) as { text: string }).text);
    return answer();
  }) as unknown as typeof fetch;
});

test('notes written without a connection wait in their order and go out once', async () => {
  answer = offline;
  await sendNote('t', note('one'));
  await sendNote('t', note('two'));
  expect(waitingNotes('t').map(({ text }) => text)).toEqual(['one', 'two']);
  // Another link has an outbox of its own.
  expect(waitingNotes('u')).toEqual([]);
  await sendWaiting('t');
  expect(waitingNotes('t')).toHaveLength(2);
  sent.length = 0;
  answer = answering(201);
  await sendWaiting('t');
  expect([sent, waitingNotes('t')]).toEqual([['one', 'two'], []]);
  await sendWaiting('t');
  expect(sent).toHaveLength(2);
});

test('what the server refuses is told, and does not wait; an error of the server does', async () => {
  answer = answering(422);
  await expect(sendNote('t', note('one'))).rejects.toThrow('refused with 422');
  expect(waitingNotes('t')).toEqual([]);
  answer = offline;
  await sendNote('t', note('two'));
  answer = answering(503);
  await sendWaiting('t');
  expect(waitingNotes('t')).toHaveLength(1);
  answer = answering(410);
  await sendWaiting('t');
  expect(waitingNotes('t')).toEqual([]);
});

test('an outbox that was tampered with is empty', () => {
  localStorage.setItem('copper-lane-outbox-t', '{');
  expect(waitingNotes('t')).toEqual([]);
  localStorage.setItem('copper-lane-outbox-t', '{"a":1}');
  expect(waitingNotes('t')).toEqual([]);
});
