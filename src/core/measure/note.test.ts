import { noteOf } from './note';

// Frequencies of the equal-tempered scale at A4 = 440 Hz (ISO 16); values from memory of the usual tables.
test.each([
  [27.5, 'A0'],
  [261.626, 'C4'],
  [440, 'A4'],
  [3520, 'A7'],
  [4186.01, 'C8'],
  [466.164, 'A♯4'],
  [246.942, 'B3'],
  [1000, 'B5 +21 ct'],
  [16.352, 'C0'],
])('%d Hz is %s', (hz, note) => {
  expect(noteOf(hz)).toBe(note);
});
