import { findings } from '../core/measure/findings';
import { IntakeMeter } from '../core/measure/intake';
import { sendBackText } from '../core/measure/send-back';
import { PIECES } from './pieces';
import type { Canvas } from './synthesiser';

/** What intake finds of each piece, and nothing else. */
const PLANTED: Record<string, string[]> = {
  Perihelion: [],
  'Debris Field': ['Clipped', 'Overs between samples'],
  Undertow: ['Wide bass'],
  'Long Dusk': ['Very dynamic'],
  'Zodiacal Light': [],
};

function foundIn({ left, right, sampleRate }: Canvas) {
  const meter = new IntakeMeter(sampleRate, left.length);
  meter.add(Float32Array.from({ length: 2 * left.length }, (_, i) => (i % 2 ? right : left)[i >> 1]));
  return findings({ container: 'FLAC', channels: 2, bits: 24, float: true, sampleRate }, meter.result());
}

const made = new Map(PIECES.map((piece) => [piece.title, piece.make()]));

test.each(PIECES.map(({ title }) => title))('%s has what was planted in it', (title) => {
  const found = foundIn(made.get(title)!);
  expect(found.filter(({ weight }) => weight !== 'note').map((each) => each.title)).toEqual(PLANTED[title]);
  const text = sendBackText(title, 'mix.wav', found);
  if (title === 'Debris Field') expect(text).toMatch(/runs of three or more samples/);
  else expect(text).toBeNull();
});

test('a corrected mix has lost the fault', () => {
  const corrected = PIECES.find(({ title }) => title === 'Debris Field')!.corrected!();
  expect(foundIn(corrected).filter(({ weight }) => weight !== 'note')).toEqual([]);
});

test('a piece is the same each time it is made', () => {
  const [first, second] = [made.get(PIECES[3].title)!, PIECES[3].make()];
  expect([...first.left.subarray(200_000, 201_000)]).toEqual([...second.left.subarray(200_000, 201_000)]);
});
