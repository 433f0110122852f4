import { proposeEdges } from './propose-edges';

test('silence at head and tail is cut, with a little left of it that fades', () => {
  expect(proposeEdges({ headSeconds: 2, tailSeconds: 5, durationSeconds: 200 })).toMatchObject({
    startSeconds: 1.95,
    endSeconds: 196,
    fadeIn: { seconds: 0.02 },
    fadeOut: { seconds: 1 },
  });
});

test('where there is no silence to cut nothing is proposed', () => {
  expect(proposeEdges({ headSeconds: 0.03, tailSeconds: 0.9, durationSeconds: 200 })).toBeNull();
  expect(proposeEdges({ headSeconds: 0, tailSeconds: 0, durationSeconds: 200 })).toBeNull();
});

test('only one end is cut where only one is silent', () => {
  expect(proposeEdges({ headSeconds: 1, tailSeconds: 0, durationSeconds: 60 })).toMatchObject({
    startSeconds: 0.95,
    endSeconds: null,
    fadeOut: { seconds: 0 },
  });
});

test('a mix that is silent throughout is left alone', () => {
  expect(proposeEdges({ headSeconds: 60, tailSeconds: 60, durationSeconds: 60 })).toBeNull();
});
