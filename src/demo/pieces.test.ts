import { findings } from '../core/measure/findings';
import { IntakeMeter } from '../core/measure/intake';
import { sendBackText } from '../core/measure/send-back';
import { PIECES } from './pieces';

/** What intake finds of each piece, and nothing else. */
const PLANTED: Record<string, string[]> = {
  Perihelion: [],
  'Debris Field': ['Clipped', 'Overs between samples'],
  Undertow: ['Wide bass'],
  'Long Dusk': ['Very dynamic'],
  'Zodiacal Light': [],
};

test.each(PIECES.map((piece) => [piece.title, piece] as const))('%s has what was planted in it', (title, piece) => {
  const { left, right, sampleRate } = piece.make();
  const meter = new IntakeMeter(sampleRate, left.length);
  meter.add(Float32Array.from({ length: 2 * left.length }, (_, i) => (i % 2 ? right : left)[i >> 1]));
  const source = { container: 'FLAC', channels: 2, bits: 24, float: true, sampleRate };
  const found = findings(source, meter.result());
  expect(found.filter(({ weight }) => weight !== 'note').map((each) => each.title)).toEqual(PLANTED[title]);
  const text = sendBackText(title, 'mix.wav', found);
  if (title === 'Debris Field') expect(text).toMatch(/runs of three or more samples/);
  else expect(text).toBeNull();
});

test('a piece is the same each time it is made', () => {
  const [first, second] = [PIECES[3].make(), PIECES[3].make()];
  expect([...first.left.subarray(200_000, 201_000)]).toEqual([...second.left.subarray(200_000, 201_000)]);
});
