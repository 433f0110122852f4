import { PLACES, type PlaceName } from './places';
import { loudnessGainDb, placeCurve, placeResponse, RESPONSE_SECONDS } from './response';

const NAMES = Object.keys(PLACES) as PlaceName[];
const curve = (name: PlaceName, frequencies: number[], rate = 48000) =>
  placeCurve(placeResponse(PLACES[name], rate), frequencies, rate);
/** Mean level in dB between two frequencies. */
const level = (name: PlaceName, from: number, to: number) => {
  const points = Array.from({ length: 24 }, (_, i) => from * (to / from) ** (i / 23));
  return curve(name, points).reduce((sum, db) => sum + db, 0) / points.length;
};

test.each(NAMES.flatMap((name) => [44100, 48000, 96000].map((rate) => [name, rate] as const)))(
  '%s at %d Hz is as loud as what is played, and has faded at its end',
  (name, rate) => {
    const response = placeResponse(PLACES[name], rate);
    expect(response.same).toHaveLength(Math.round(RESPONSE_SECONDS * rate));
    expect(loudnessGainDb(response, rate)).toBeCloseTo(0, 6);
    const { same } = response;
    const most = same.reduce((peak, x) => Math.max(peak, Math.abs(x)), 0);
    expect(Math.abs(same[same.length - 1]) / most).toBeLessThan(1e-4);
    expect([...same, ...response.opposite].every(Number.isFinite)).toBe(true);
  },
);

test.each(NAMES)('%s has the same curve at every rate', (name) => {
  const octaves = (rate: number) =>
    [60, 250, 1000, 4000].map((from) => {
      // Over an octave: the noise of a tail is another at each rate.
      const powers = curve(
        name,
        [1, 2, 3, 4, 5, 6].map((i) => from * 2 ** (i / 6)),
        rate,
      ).map((db) => 10 ** (db / 10));
      return 10 * Math.log10(powers.reduce((sum, power) => sum + power, 0) / powers.length);
    });
  const low = octaves(44100);
  octaves(96000).forEach((db, i) => expect(Math.abs(db - low[i])).toBeLessThan(PLACES[name].tail ? 3 : 1));
});

test('each place is what its description says', () => {
  // A fourth-order corner at 420 Hz: two octaves below it some 48 dB less than above.
  expect(level('phone', 800, 4000) - level('phone', 90, 110)).toBeGreaterThan(40);
  expect(level('radio', 300, 3000) - level('radio', 12000, 16000)).toBeGreaterThan(12);
  expect(level('car', 45, 70) - level('car', 200, 300)).toBeGreaterThan(5);
  expect(level('nextRoom', 100, 400) - level('nextRoom', 4000, 8000)).toBeGreaterThan(15);
  for (const name of ['phone', 'radio', 'nextRoom'] as const) {
    const { same, opposite } = placeResponse(PLACES[name], 48000);
    expect(opposite).toEqual(same);
  }
});

test('crossfed headphones give each ear the other side later and duller', () => {
  const { same, opposite } = placeResponse(PLACES.headphones, 48000);
  const first = (x: Float64Array) => x.findIndex((value) => Math.abs(value) > 1e-4);
  expect(first(opposite) - first(same)).toBe(Math.round(0.00028 * 48000));
  const only = (x: Float64Array) => ({ same: x, opposite: new Float64Array(x.length), givesWay: null });
  const [low, high] = placeCurve(only(opposite), [100, 6000], 48000);
  const [ownLow, ownHigh] = placeCurve(only(same), [100, 6000], 48000);
  expect(ownLow - low).toBeCloseTo(7, 0);
  expect(ownHigh - high).toBeGreaterThan(30);
});
