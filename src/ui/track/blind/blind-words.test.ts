import type { BlindTest } from '../../../contracts/blind-test';
import { tellResult } from '../../../core/blind/result';
import { blindTestAsText, trialsWords } from './blind-words';

test('before the test it is told how many have to be right', () => {
  // Binomial law: 9 of 10 by chance 1.07 %, 8 of 10 5.5 %; 12 of 16 3.8 %; 15 of 20 2.1 %.
  expect(trialsWords(10)).toBe('9 of 10 have to be right to rule out luck: guessing gets that far in 1.1 % of tests.');
  expect(trialsWords(16)).toContain('12 of 16');
  expect(trialsWords(20)).toContain('15 of 20 have to be right to rule out luck: guessing gets that far in 2.1 %');
  expect(trialsWords(4)).toContain('Too few');
  expect(trialsWords(5)).toContain('5 of 5');
});

test('a finished test as text names what each letter was', () => {
  const names = ['Mix 1', 'Master'];
  const assignment = [[1], [0]];
  const answers = [{ choice: 1 }, { choice: 1 }] as const;
  const test: BlindTest = {
    ...{ id: 'x', kind: 'tell', names, trials: 2, startSeconds: 31, sampleRate: 48000, frames: 480000 },
    ...{ status: 'finished', answered: 2, createdAt: '2026-03-04T12:00:00.000Z', assignment },
    answers: [...answers],
    result: tellResult(names, assignment, answers),
  };
  const text = blindTestAsText('Perihelion', test);
  expect(text).toContain('Perihelion: blind test of “Mix 1” and “Master”');
  expect(text).toContain('2 trials, passage 0:31.0–0:41.0');
  expect(text).toContain('1 of 2 right.');
  expect(text).toContain('Trial 1: X was “Master”; answered “Master”\nTrial 2: X was “Mix 1”; answered “Master”');
});
