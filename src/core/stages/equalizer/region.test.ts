import { bandSections, sectionsGainDb } from './design';
import { regionBands } from './region';
import { equalizerBand, type EqualizerBand } from './settings';
import { sweepSettings, sweptBoost, sweptCut } from './sweep';

const RATE = 48000;
const through = (bands: EqualizerBand[], f: number) =>
  sectionsGainDb(
    bands.flatMap((band) => bandSections(band, RATE)),
    f,
    RATE,
  );
const band = (shape: EqualizerBand['shape'], q = 2) => equalizerBand.parse({ shape, frequencyHz: 1000, q });

test.each(['bell', 'notch', 'bandPass'] as const)('of a %s only what lies around it passes', (shape) => {
  const region = regionBands(band(shape));
  expect(through(region, 1000)).toBeCloseTo(0, 2);
  expect(through(region, 100)).toBeLessThan(-40);
  expect(through(region, 10_000)).toBeLessThan(-40);
});

test.each([
  ['lowShelf', 100, 8000],
  ['highPass', 100, 8000],
  ['highShelf', 10_000, 120],
  ['lowPass', 10_000, 120],
] as const)('of a %s what it works on passes, and not the rest', (shape, inside, outside) => {
  const region = regionBands(band(shape));
  expect(through(region, inside)).toBeCloseTo(0, 1);
  expect(through(region, outside)).toBeLessThan(-60);
});

test('a very narrow or broad band is heard with a calm width; a tilt has no region', () => {
  expect(regionBands(band('bell', 30))[0].q).toBe(12);
  expect(regionBands(band('bell', 0.1))[0].q).toBe(0.5);
  expect(regionBands(band('tilt'))).toEqual([]);
});

test('the sweep boosts what it leaves as a cut, at the same place and width', () => {
  const settings = sweepSettings.parse({ boostDb: 12, cutDb: -4, q: 6 });
  const [boost, cut] = [sweptBoost(3400, settings), sweptCut(3400, settings)];
  expect(through([boost], 3400)).toBeCloseTo(12, 9);
  expect(through([cut], 3400)).toBeCloseTo(-4, 9);
  expect([cut.frequencyHz, cut.q]).toEqual([boost.frequencyHz, boost.q]);
});
