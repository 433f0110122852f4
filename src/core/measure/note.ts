const NAMES = ['C', 'C♯', 'D', 'D♯', 'E', 'F', 'F♯', 'G', 'G♯', 'A', 'A♯', 'B'];
/** Number of the A at 440 Hz (ISO 16), counted in semitones from the C of octave −1. */
const A4 = 69;

/**
 * The nearest note of equal temperament to a frequency in Hz, with the cents beside it.
 * @example
 * noteOf(440) // 'A4'
 * noteOf(450) // 'A4 +39 ct'
 */
export function noteOf(frequencyHz: number): string {
  const place = A4 + 12 * Math.log2(frequencyHz / 440);
  const note = Math.round(place);
  const cents = Math.round(100 * (place - note));
  const name = `${NAMES[((note % 12) + 12) % 12]}${Math.floor(note / 12) - 1}`;
  return cents === 0 ? name : `${name} ${cents > 0 ? '+' : '−'}${Math.abs(cents)} ct`;
}
