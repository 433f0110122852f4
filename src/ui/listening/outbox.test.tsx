import { approvedWith, sendAnswer, sendWaiting, waitingAnswers } from './outbox';

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
  await sendAnswer('t', note('one'));
  await sendAnswer('t', note('two'));
  expect(waitingAnswers('t')).toEqual([note('one'), note('two')]);
  // Another link has an outbox of its own.
  expect(waitingAnswers('u')).toEqual([]);
  await sendWaiting('t');
  expect(waitingAnswers('t')).toHaveLength(2);
  sent.length = 0;
  answer = answering(201);
  await sendWaiting('t');
  expect([sent, waitingAnswers('t')]).toEqual([['one', 'two'], []]);
  await sendWaiting('t');
  expect(sent).toHaveLength(2);
});

test('what the server refuses is told, and does not wait; an error of the server does', async () => {
  answer = answering(422);
  await expect(sendAnswer('t', note('one'))).rejects.toThrow('refused with 422');
  expect(waitingAnswers('t')).toEqual([]);
  answer = offline;
  await sendAnswer('t', note('two'));
  answer = answering(503);
  await sendWaiting('t');
  expect(waitingAnswers('t')).toHaveLength(1);
  answer = answering(410);
  await sendWaiting('t');
  expect(waitingAnswers('t')).toEqual([]);
});

test('an approval waits as a note does, and shows at once', async () => {
  const approval = (approved: boolean) => ({ trackIds: ['a', 'b'], approved, author: 'Dana' });
  answer = offline;
  await sendAnswer('t', note('one'));
  await sendAnswer('t', approval(true));
  expect(approvedWith(['c'], waitingAnswers('t'))).toEqual(['c', 'a', 'b']);
  expect(approvedWith(['a', 'c'], [approval(false)])).toEqual(['c']);
  const paths: string[] = [];
  global.fetch = ((path: string, { method }: { method: string }) => {
    paths.push(`${method} ${path}`);
    return answering(204)();
  }) as unknown as typeof fetch;
  await sendWaiting('t');
  expect(paths).toEqual(['POST /api/listening/t/notes', 'PUT /api/listening/t/approvals']);
  expect(waitingAnswers('t')).toEqual([]);
});

test('an outbox that was tampered with is empty', () => {
  localStorage.setItem('copper-lane-outbox-t', '{');
  expect(waitingAnswers('t')).toEqual([]);
  localStorage.setItem('copper-lane-outbox-t', '{"a":1}');
  expect(waitingAnswers('t')).toEqual([]);
});
