import { rm } from 'node:fs/promises';
import { Readable } from 'node:stream';
import type { Knex } from 'knex';
import { gradeResult, LETTERS, tellResult, type Assignment, type BlindAnswer } from '../../core/blind/result';
import type { BlindTest, GivenBlindAnswer, NewBlindTest } from '../../contracts/blind-test';
import { requireOwn } from '../ownership';
import { notFound, Problem } from '../problem';
import { audioStore } from '../store/audio-store';
import { requireRoomFor } from '../store/room';
import { assign } from './assignment';
import { levelOf, masked, soundOf, unequal } from './sounds';

/** Tests of a track that are kept. */
const MOST_TESTS = 100;
const FRAME_BYTES = 8;

interface TestRow {
  id: string;
  track_id: string;
  kind: BlindTest['kind'];
  names: string[];
  trials: number;
  start_seconds: number;
  sample_rate: number;
  frames: number;
  status: BlindTest['status'];
  assignment: Assignment | null;
  answers: BlindAnswer[];
  created_at: Date;
}

const COLUMNS = [
  ...(['id', 'track_id', 'kind', 'names', 'trials', 'start_seconds', 'sample_rate', 'frames'] as const),
  ...(['status', 'assignment', 'answers', 'created_at'] as const),
];

/** A test as far as it may be known. */
function testOf(row: TestRow): BlindTest {
  const { id, kind, names, trials, start_seconds, sample_rate, frames, status, answers, created_at } = row;
  const assignment = status === 'finished' ? row.assignment : null;
  const result = assignment && (kind === 'tell' ? tellResult : gradeResult)(names, assignment, answers);
  return {
    ...{ id, kind, names, trials, frames, status, answered: answers.length, result },
    startSeconds: start_seconds,
    sampleRate: sample_rate,
    createdAt: created_at.toISOString(),
    assignment: assignment && assignment.map((places) => [...places]),
    answers: assignment && answers,
  };
}

function ownTest(db: Knex, accountId: string, id: string, lock = false): Promise<TestRow> {
  return requireOwn<TestRow>(db, 'blind_tests', accountId, id, COLUMNS, { lock });
}

export async function blindTest(db: Knex, accountId: string, id: string): Promise<BlindTest> {
  return testOf(await ownTest(db, accountId, id));
}

/** The blind tests of a track, the newest first. Throws a Problem (404) for another's. */
export async function listBlindTests(db: Knex, accountId: string, trackId: string): Promise<BlindTest[]> {
  await requireOwn(db, 'tracks', accountId, trackId, ['id']);
  const rows = await db('blind_tests')
    .where({ track_id: trackId })
    .orderBy('created_at', 'desc')
    .select<TestRow[]>(...COLUMNS);
  return rows.map(testOf);
}

/** Prepares a blind test: its sounds are sent next, then it begins. */
export async function createBlindTest(
  db: Knex,
  accountId: string,
  trackId: string,
  test: NewBlindTest,
): Promise<BlindTest> {
  return db.transaction(async (trx) => {
    await requireOwn(trx, 'tracks', accountId, trackId, ['id'], { lock: true });
    const [{ count }] = await trx('blind_tests').where({ track_id: trackId }).count<{ count: string }[]>('id');
    if (Number(count) >= MOST_TESTS)
      throw new Problem(422, `A track keeps at most ${MOST_TESTS} blind tests. Delete one first.`);
    // A page that was closed while it sent its sounds does not come back to them.
    await trx('blind_tests')
      .where({ track_id: trackId, status: 'gathering' })
      .whereRaw(`created_at < now() - interval '1 hour'`)
      .delete();
    const { kind, names, trials, startSeconds, sampleRate, frames } = test;
    const [row] = await trx('blind_tests')
      .insert({
        ...{ track_id: trackId, kind, names: JSON.stringify(names), trials, frames },
        ...{ start_seconds: startSeconds, sample_rate: sampleRate },
      })
      .returning<TestRow[]>([...COLUMNS]);
    return testOf(row);
  });
}

/** Takes the sound of a candidate: interleaved stereo floats. Throws a Problem when it is not as long as was said. */
export async function receiveSound(
  db: Knex,
  accountId: string,
  id: string,
  position: number,
  request: Request,
): Promise<void> {
  const { track_id, names, frames, status } = await ownTest(db, accountId, id);
  if (!Number.isInteger(position) || position < 0 || position >= names.length) throw notFound('candidate');
  if (status !== 'gathering') throw new Problem(409, 'This blind test has begun: its sounds stay as they are.');
  if (!request.body) throw new Problem(422, 'The sound is empty.');
  const store = audioStore(db);
  const bytes = frames * FRAME_BYTES;
  await requireRoomFor(db, store, accountId, bytes);
  const body = Readable.fromWeb(request.body as Parameters<typeof Readable.fromWeb>[0]);
  const received = await store.receive(body, bytes);
  try {
    if (received.bytes !== bytes)
      throw new Problem(422, `The sound has ${received.bytes} bytes; ${frames} frames have ${bytes}. Start again.`);
    const samples = await soundOf(received.file);
    if (!samples.every((x) => Number.isFinite(x) && Math.abs(x) < 1000))
      throw new Problem(422, 'The sound has samples that are NaN or far beyond full scale.');
    await store.adopt(received.file, received.hash);
    await db('blind_test_sounds')
      .insert({ track_id, test_id: id, position, file_hash: received.hash })
      .onConflict(['test_id', 'position'])
      .merge(['file_hash']);
  } catch (error) {
    await rm(received.file, { force: true });
    throw error;
  }
}

async function soundFiles(db: Knex, id: string): Promise<string[]> {
  const rows = await db('blind_test_sounds')
    .where({ test_id: id })
    .orderBy('position')
    .select<{ file_hash: string }[]>('file_hash');
  return rows.map(({ file_hash }) => file_hash);
}

/** Begins a test whose sounds are all there. Throws a Problem (422) unless they are equally loud. */
export async function beginBlindTest(db: Knex, accountId: string, id: string): Promise<BlindTest> {
  const row = await ownTest(db, accountId, id);
  const files = await soundFiles(db, id);
  if (files.length !== row.names.length) throw new Problem(409, 'Not all sounds of this blind test have arrived.');
  const store = audioStore(db);
  const levels = [];
  for (const hash of files) levels.push(levelOf(await soundOf(await store.locate(hash)), row.sample_rate));
  const reason = unequal(row.names, levels);
  if (reason) throw new Problem(422, reason);
  return db.transaction(async (trx) => {
    const now = await ownTest(trx, accountId, id, true);
    if (now.status !== 'gathering') throw new Problem(409, 'This blind test has already begun.');
    const assignment = assign(now.kind, now.names.length, now.trials);
    await trx('blind_tests')
      .where({ id })
      .update({ status: 'running', assignment: JSON.stringify(assignment) });
    return testOf({ ...now, status: 'running', assignment });
  });
}

/**
 * The sound of a letter in a trial that is due or was answered. Telling apart: A and B are the named ones, X is the unknown
 * one. Grading: R is the reference, A and the letters after it are the unknown ones.
 */
export async function blindSound(
  db: Knex,
  accountId: string,
  id: string,
  trial: number,
  letter: string,
): Promise<Float32Array> {
  const { kind, names, status, assignment, answers, trials } = await ownTest(db, accountId, id);
  if (status === 'gathering' || !assignment) throw new Problem(409, 'This blind test has not begun.');
  if (!Number.isInteger(trial) || trial < 0 || trial >= trials || trial > answers.length) throw notFound('trial');
  const unnamed = kind === 'tell' ? ['X'] : LETTERS.slice(0, names.length);
  const named = kind === 'tell' ? ['A', 'B'] : ['R'];
  const behind = unnamed.indexOf(letter);
  const place = behind >= 0 ? assignment[trial][behind] : named.indexOf(letter);
  if (place < 0) throw notFound('letter');
  const files = await soundFiles(db, id);
  return masked(await soundOf(await audioStore(db).locate(files[place])));
}

/** Takes the answer to the trial that is due; after the last one the test is finished. */
export async function answerBlindTest(
  db: Knex,
  accountId: string,
  id: string,
  { trial, answer }: GivenBlindAnswer,
): Promise<BlindTest> {
  return db.transaction(async (trx) => {
    const row = await ownTest(trx, accountId, id, true);
    if (row.status !== 'running') throw new Problem(409, 'This blind test is not running.');
    if (trial !== row.answers.length) throw new Problem(409, `Trial ${row.answers.length + 1} is due.`);
    const fits =
      row.kind === 'tell' ? 'choice' in answer : 'grades' in answer && answer.grades.length === row.names.length;
    if (!fits) throw new Problem(422, row.kind === 'tell' ? 'Say which of the two it is.' : 'Grade every letter.');
    const answers = [...row.answers, answer];
    const status = answers.length === row.trials ? 'finished' : 'running';
    await trx('blind_tests')
      .where({ id })
      .update({ answers: JSON.stringify(answers), status });
    return testOf({ ...row, answers, status });
  });
}

/** Deletes a blind test, whether it is finished or not. */
export async function removeBlindTest(db: Knex, accountId: string, id: string): Promise<void> {
  await db.transaction(async (trx) => {
    await ownTest(trx, accountId, id, true);
    await trx('blind_tests').where({ id }).delete();
  });
}
