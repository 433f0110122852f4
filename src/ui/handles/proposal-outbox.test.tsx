import type { NewProposal } from '../../contracts/proposal';
import { sendProposal, sendWaitingProposal, sendWaitingProposals, waitingProposal } from './proposal-outbox';

const PATH = '/api/tracks/a/proposals';
const proposal = (madeAt: string): NewProposal => ({
  ...{ versionId: 'v', step: 1, author: 'Dana', madeAt },
  positions: { handles: { Loudness: 60 }, amountPercent: 100 },
});
let answers: (() => Promise<Partial<Response>>)[] = [];
const offline = () => Promise.reject(new TypeError('no connection'));
const answering = (status: number) => () =>
  Promise.resolve({ status, ok: status < 400, json: () => Promise.resolve({ error: 'no' }) });

beforeEach(() => {
  localStorage.clear();
  global.fetch = (() => answers.shift()!()) as unknown as typeof fetch;
});

test('without a connection the newest proposal waits, and goes out when there is one', async () => {
  answers = [offline, offline, answering(503), answering(201)];
  expect(await sendProposal(PATH, proposal('1'))).toBe(false);
  expect(await sendProposal(PATH, proposal('2'))).toBe(false);
  expect(waitingProposal(PATH)?.madeAt).toBe('2');
  expect(await sendWaitingProposal(PATH)).toBe(false);
  expect(await sendWaitingProposal(PATH)).toBe(true);
  expect(waitingProposal(PATH)).toBeNull();
  expect(await sendWaitingProposal(PATH)).toBe(true);
});

test('who has to sign in again, or to wait, loses nothing', async () => {
  answers = [answering(401), answering(429), answering(201)];
  expect(await sendProposal(PATH, proposal('1'))).toBe(false);
  expect(await sendWaitingProposal(PATH)).toBe(false);
  expect(waitingProposal(PATH)?.madeAt).toBe('1');
  expect(await sendWaitingProposal(PATH)).toBe(true);
});

test('one that is refused does not come back', async () => {
  answers = [answering(409)];
  await expect(sendProposal(PATH, proposal('1'))).rejects.toThrow('no');
  expect(waitingProposal(PATH)).toBeNull();
});

test('any page sends what waits, and tells what is refused', async () => {
  const other = '/api/tracks/b/proposals';
  answers = [offline, offline, answering(201), answering(409)];
  await sendProposal(PATH, proposal('1'));
  await sendProposal(other, proposal('2'));
  await expect(sendWaitingProposals()).rejects.toThrow('no');
  expect([waitingProposal(PATH), waitingProposal(other)]).toEqual([null, null]);
});
