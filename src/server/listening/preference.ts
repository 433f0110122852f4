import { randomInt } from 'node:crypto';
import type { Knex } from 'knex';
import type { HeardSource, PreferenceTest, preferenceAnswerSchema } from '../../contracts/listening';
import type { z } from 'zod';
import { preferenceSentence } from '../../core/blind/preference';
import { Problem } from '../problem';
import type { LinkRow } from './links';
import type { Heard } from './programme';
import { heardOn, heardTrack } from './visitor';

/** Finished tests of a link that are kept. */
const MOST_TESTS = 50;

type Setup = NonNullable<Heard['preference']>;

interface TestRow {
  id: string;
  track_id: string;
  author: string;
  sources: [HeardSource, HeardSource];
  names: [string, string];
  /** For each trial, which of the two A is. */
  assignment: (0 | 1)[];
  /** Which of the two was liked better. */
  answers: (0 | 1)[];
  finished_at: Date | null;
}

/** How a finished test came out, in words. */
export function preferenceResult({ names, answers }: Pick<TestRow, 'names' | 'answers'>): string {
  return preferenceSentence(names, answers.filter((answer) => answer === 1).length, answers.length);
}

async function newest(db: Knex, { id }: LinkRow): Promise<TestRow | undefined> {
  return db('preference_tests').where({ link_id: id }).orderBy('created_at', 'desc').first<TestRow | undefined>();
}

/** The test of a link as far as a listener may know it: which letter is which only after the end. */
export async function preferenceOf(db: Knex, link: LinkRow, { trackId, trials }: Setup): Promise<PreferenceTest> {
  const row = await newest(db, link);
  const current = row?.track_id === trackId && row.assignment.length === trials ? row : undefined;
  return {
    ...{ trackId, trials, testId: current?.id ?? null, answered: current?.answers.length ?? 0 },
    result: current?.finished_at ? preferenceResult(current) : null,
  };
}

function setupOf(link: LinkRow): Setup {
  const { preference } = heardOn(link);
  if (!preference) throw new Problem(404, 'There is no blind test on this listening page.');
  return preference;
}

/** Begins a test, in place of one that was not finished. Throws a Problem (404) where there is none to take. */
export async function startPreference(db: Knex, link: LinkRow, author: string): Promise<PreferenceTest> {
  const setup = setupOf(link);
  const track = heardTrack(link, setup.trackId);
  const nameOf = (source: HeardSource) =>
    // Of a single version the name says nothing to a client, whose page calls it the master.
    source === 'mix'
      ? 'the mix'
      : track.other
        ? `“${source === 'master' ? track.version : track.other}”`
        : 'the master';
  await db.transaction(async (trx) => {
    await trx('listening_links').where({ id: link.id }).forUpdate().first('id');
    await trx('preference_tests').where({ link_id: link.id, finished_at: null }).delete();
    const [{ count }] = await trx('preference_tests').where({ link_id: link.id }).count<{ count: string }[]>('id');
    if (Number(count) >= MOST_TESTS) throw new Problem(422, 'This blind test was taken often enough. Thank you.');
    await trx('preference_tests').insert({
      ...{ release_id: link.release_id, link_id: link.id, track_id: setup.trackId, author },
      sources: JSON.stringify(setup.between),
      names: JSON.stringify(setup.between.map(nameOf)),
      assignment: JSON.stringify(Array.from({ length: setup.trials }, () => randomInt(2))),
    });
  });
  return preferenceOf(db, link, setup);
}

/** A test in which a trial is due. Throws a Problem: 404 for another test, 409 for another trial. */
function dueIn(row: TestRow | undefined, testId: string, trial: number): TestRow {
  if (row?.id !== testId) throw new Problem(404, 'This blind test was replaced by a newer one. Reload the page.');
  if (trial !== row.answers.length || row.finished_at)
    throw new Problem(409, 'This trial is answered already. Reload the page.');
  return row;
}

/** The source that a letter stands for in the current trial. Throws a Problem: 404 for none, 409 for another trial. */
export async function sourceOfLetter(
  db: Knex,
  link: LinkRow,
  testId: string,
  trial: number,
  letter: 'A' | 'B',
): Promise<HeardSource> {
  const row = dueIn(await newest(db, link), testId, trial);
  return row.sources[letter === 'A' ? row.assignment[trial] : 1 - row.assignment[trial]];
}

/** Takes the answer of the trial that is due. Throws a Problem (409) for another one. */
export async function answerPreference(
  db: Knex,
  link: LinkRow,
  testId: string,
  { trial, letter }: z.infer<typeof preferenceAnswerSchema>,
): Promise<PreferenceTest> {
  const setup = setupOf(link);
  await db.transaction(async (trx) => {
    const own = trx('preference_tests').where({ id: testId, link_id: link.id }).forUpdate();
    const row = dueIn(await own.first<TestRow | undefined>(), testId, trial);
    const first = row.assignment[trial];
    const answers = [...row.answers, letter === 'A' ? first : 1 - first];
    const finished = answers.length === row.assignment.length;
    await trx('preference_tests')
      .where({ id: testId })
      .update({ answers: JSON.stringify(answers), finished_at: finished ? trx.fn.now() : null });
  });
  return preferenceOf(db, link, setup);
}
