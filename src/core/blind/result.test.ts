import { gradeResult, meanWithin95, tellResult } from './result';

const NAMES = ['Mix', 'Master', 'Other'];

test('telling two apart: what was right, and what chance would have done', () => {
  const assignment = [0, 1, 0, 1, 1, 0, 0, 1, 0, 1].map((place) => [place]);
  const answers = assignment.map(([place], i) => ({ choice: (i === 3 ? 1 - place : place) as 0 | 1 }));
  const result = tellResult(NAMES, assignment, answers);
  expect(result.right).toBe(9);
  expect(result.chance).toBeCloseTo(0.0107, 4);
  expect(result.sentences.slice(0, 3)).toEqual([
    '9 of 10 right.',
    'By guessing, as many or more come in 1.1 % of such tests.',
    'So you very likely hear a difference between “Mix” and “Master”.',
  ]);
  const guessed = tellResult(
    NAMES,
    assignment,
    answers.map(({ choice }, i) => ({ choice: (i % 2 ? choice : 1 - choice) as 0 | 1 })),
  );
  expect(guessed.sentences[2]).toContain('may well be chance');
});

test('grades go back to the names, whatever letter they stood behind', () => {
  const assignment = [
    [2, 0, 1],
    [0, 1, 2],
    [1, 2, 0],
    [0, 2, 1],
  ];
  const given = [100, 40, 70];
  const answers = assignment.map((places) => ({ grades: places.map((place) => given[place]) }));
  const result = gradeResult(NAMES, assignment, answers);
  expect(result.grades.map(({ mean }) => mean)).toEqual(given);
  expect(result.counts).toBe(true);
  expect(result.sentences[0]).toBe(
    'Mean grades, with the interval of 95 %: “Mix” 100 ± 0, “Other” 70 ± 0, “Master” 40 ± 0.',
  );
  const deaf = gradeResult(
    NAMES,
    assignment,
    assignment.map((places) => ({ grades: places.map(() => 60) })),
  );
  expect(deaf.counts).toBe(false);
  expect(deaf.sentences[1]).toContain('can’t be told apart');
});

test('an interval of 95 % by Student’s t: 10, 20, 30 have a mean of 20 ± 24.8', () => {
  const { mean, half } = meanWithin95([10, 20, 30]);
  expect(mean).toBe(20);
  expect(half).toBeCloseTo(24.8, 1);
  expect(meanWithin95([50])).toEqual({ mean: 50, half: 0 });
});
