import { cueSheet, discTime } from './cue-sheet';

test.each([
  [0, '00:00:00'],
  [74, '00:00:74'],
  [75 * 60 - 1, '00:59:74'],
  [(79 * 60 + 57) * 75 + 74, '79:57:74'],
  [(123 * 60 + 4) * 75, '123:04:00'],
])('%d disc frames are %s', (discFrames, time) => {
  expect(discTime(discFrames)).toBe(time);
});

test('what is not known is left out, and no text breaks out of its quotes', () => {
  const tracks = [{ index0: null, index1: 0, title: 'A "quoted"\r\nREM title', artist: '', isrc: '' }];
  expect(cueSheet({ file: 'x.wav', title: 'Only', artist: '', ean: '', tracks })).toBe(
    [
      'TITLE "Only"',
      'FILE "x.wav" WAVE',
      '  TRACK 01 AUDIO',
      '    TITLE "A ’quoted’REM title"',
      '    INDEX 01 00:00:00',
      '',
    ].join('\r\n'),
  );
});
