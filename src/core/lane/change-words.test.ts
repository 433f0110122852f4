import { changeWords } from './change-words';
import { EMPTY_LANE, newStage, type Lane, type Stage } from './schema';

const lane = (...stages: Stage[]): Lane => ({ ...EMPTY_LANE, stages });
const withSettings = (stage: Stage, settings: object): Stage =>
  ({ ...stage, settings: { ...stage.settings, ...settings } }) as Stage;
const limiter = newStage('limiter', 'a');
const equalizer = newStage('equalizer', 'b');
const bands = (...parts: object[]) =>
  withSettings(equalizer, {
    bands: parts.map((part) => ({ shape: 'bell', frequencyHz: 1000, gainDb: 0, q: 1, on: true, ...part })),
  });

test.each([
  ['one value', limiter, withSettings(limiter, { ceilingDbtp: -2 }), 'Ceiling: −1.0 → −2.0 dBTP'],
  ['a band, in kHz', bands({}, { frequencyHz: 4500 }), bands({}, { frequencyHz: 5700 }), 'Ceiling: 4.5 → 5.7 kHz'],
  ['across 1 kHz', bands({ frequencyHz: 950 }), bands({ frequencyHz: 1050 }), 'Ceiling: 0.95 → 1.05 kHz'],
  ['two values', bands({}), bands({ frequencyHz: 500, gainDb: -2.5 }), 'Ceiling: 1 → 0.5 kHz, 0.0 → −2.5 dB'],
  ['another number of bands', bands({}), bands({}, {}), 'Ceiling'],
  ['a stage switched off', limiter, { ...limiter, on: false }, 'Ceiling'],
  ['nothing', limiter, limiter, 'Ceiling'],
])('%s', (_, before, after, words) => {
  expect(changeWords('Ceiling', lane(before), lane(after))).toBe(words);
});

test('a crossover has its values; stages that come, go or change together have none', () => {
  const at = (frequenciesHz: number[]): Lane => ({ ...lane(limiter), crossovers: { frequenciesHz, phase: 'minimum' } });
  const [before, after] = [at([120, 2000]), at([140, 2000])];
  expect(changeWords('Move crossover 1', before, after)).toBe('Move crossover 1: 120 → 140 Hz');
  expect(changeWords('Add', lane(limiter), lane(limiter, equalizer))).toBe('Add');
  expect(
    changeWords('Both', lane(limiter, bands({})), lane(withSettings(limiter, { ceilingDbtp: -2 }), bands({ q: 2 }))),
  ).toBe('Both');
});
