import { THIRD_OCTAVES_HZ } from '../measure/balance';
import { decibels } from '../signal/decibels';
import { bellPrototype, highShelfPrototype, lowShelfPrototype, prototypeMagnitude } from '../signal/prototype';
import { movesTowards, type ProposedMove } from './closer';

const PROTOTYPES = { lowShelf: lowShelfPrototype, bell: bellPrototype, highShelf: highShelfPrototype };
/** What proposed moves do to a balance, in dB by third-octaves. */
const applied = (moves: ProposedMove[]) =>
  THIRD_OCTAVES_HZ.map((hz) =>
    moves.reduce((sum, { band: { shape, frequencyHz, q, gainDb } }) => {
      const prototype = PROTOTYPES[shape as keyof typeof PROTOTYPES](gainDb, q);
      return sum + decibels(prototypeMagnitude(prototype, hz / frequencyHz));
    }, 0),
  );
/** How far a balance is from flat between 60 Hz and 10 kHz, in dB. */
const unevenness = (difference: number[]) => {
  const heard = difference.filter((_, i) => THIRD_OCTAVES_HZ[i] > 60 && THIRD_OCTAVES_HZ[i] < 10000);
  const mean = heard.reduce((sum, db) => sum + db, 0) / heard.length;
  return Math.sqrt(heard.reduce((sum, db) => sum + (db - mean) ** 2, 0) / heard.length);
};
const differences = {
  'too dark': (hz: number) => -1.2 * Math.log2(hz / 1000),
  'too bright': (hz: number) => 0.8 * Math.log2(hz / 1000),
  'a heavy low middle': (hz: number) => 3 * Math.exp(-(Math.log2(hz / 250) ** 2)),
  'no presence': (hz: number) => -2.5 * Math.exp(-(Math.log2(hz / 4000) ** 2)),
};

test.each(Object.entries(differences))(
  'a master that is %s comes closer, by broad strokes of at most 3 dB',
  (_, of) => {
    const difference = THIRD_OCTAVES_HZ.map(of);
    const moves = movesTowards(difference);
    expect(moves.length).toBeGreaterThan(0);
    for (const { band, reason } of moves) {
      expect(Math.abs(band.gainDb)).toBeLessThanOrEqual(3);
      expect(band.q).toBeLessThanOrEqual(1);
      // What it has less of is raised.
      const said = /^(?:Below|Around|Above) .*Hz the master has \d+\.\d dB (less|more) than the reference/.exec(reason);
      if (said) expect(Math.sign(band.gainDb)).toBe(said[1] === 'less' ? 1 : -1);
      else expect(reason).toContain('it takes back what its neighbours do');
    }
    const [largest] = [...moves].sort((a, b) => Math.abs(b.band.gainDb) - Math.abs(a.band.gainDb));
    expect(largest.reason).toContain('than the reference, at equal loudness.');
    const after = applied(moves).map((db, i) => db + difference[i]);
    expect(unevenness(after)).toBeLessThan(0.6 * unevenness(difference));
  },
);

test('what is alike is left alone, and so is a mere difference of level', () => {
  expect(movesTowards(THIRD_OCTAVES_HZ.map(() => 0))).toEqual([]);
  expect(movesTowards(THIRD_OCTAVES_HZ.map(() => 4))).toEqual([]);
  expect(movesTowards(THIRD_OCTAVES_HZ.map(() => null))).toEqual([]);
  // A single note is no balance.
  expect(movesTowards(THIRD_OCTAVES_HZ.map((_, i) => (i === 12 ? 2 : 0)))).toEqual([]);
});

test('however far the two are apart, no move is larger, and nothing is done beyond the ends of records', () => {
  for (const scale of [-20, 20]) {
    const moves = movesTowards(THIRD_OCTAVES_HZ.map((hz) => scale * Math.log2(hz / 1000)));
    expect(Math.max(...moves.map(({ band }) => Math.abs(band.gainDb)))).toBe(3);
  }
  const ends = THIRD_OCTAVES_HZ.map((hz) => (hz < 35 || hz > 16000 ? -30 : 0));
  for (const { band } of movesTowards(ends)) expect(Math.abs(band.gainDb)).toBeLessThanOrEqual(3);
});
