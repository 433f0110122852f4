import type { Quantity } from '../../core/stages/setting';
import { typedValue } from './typed-value';

const of = (unit: string, min: number, max: number, step: number): Quantity => ({
  ...{ title: 'Value', unit, min, max, step, default: min, help: '' },
});
const GAIN = of('dB', -24, 24, 0.1);
const CEILING = of('dBTP', -12, 0, 0.1);
const FREQUENCY = of('Hz', 10, 40000, 1);
const TIME = of('ms', 0.1, 2000, 0.1);
const RATIO = of(': 1', 1, 20, 0.1);
const SHARE = of('%', 0, 100, 1);
const Q = of('', 0.1, 40, 0.01);

test.each<[string, Quantity, number]>([
  ['+4 dB', GAIN, 4],
  ['-6', GAIN, -6],
  ['−6,25 db', GAIN, -6.2],
  ['.5', GAIN, 0.5],
  ['-1 dBTP', CEILING, -1],
  ['-1dB', CEILING, -1],
  ['2k', FREQUENCY, 2000],
  ['1.5 kHz', FREQUENCY, 1500],
  ['1k5', FREQUENCY, 1500],
  ['3,4 K', FREQUENCY, 3400],
  ['12 000', FREQUENCY, 12000],
  ['440Hz', FREQUENCY, 440],
  ['250ms', TIME, 250],
  ['1.2 s', TIME, 1200],
  ['500 µs', TIME, 0.5],
  ['2:1', RATIO, 2],
  ['2.5 : 1', RATIO, 2.5],
  ['4', RATIO, 4],
  ['50 %', SHARE, 50],
  ['0,71', Q, 0.71],
])('“%s” is understood', (text, quantity, value) => {
  expect(typedValue(text, quantity)).toEqual({ value });
});

test.each<[string, Quantity]>([
  ['loud', GAIN],
  ['', GAIN],
  ['--3', GAIN],
  ['3 Hz', GAIN],
  ['2k', GAIN],
  ['1.2.3', FREQUENCY],
  ['2k constructor', FREQUENCY],
  ['5constructor', GAIN],
  ['2:2', RATIO],
  ['1e3', FREQUENCY],
  ['Infinity', FREQUENCY],
])('“%s” gets a sentence with an example', (text, quantity) => {
  const { problem } = typedValue(text, quantity) as { problem: string };
  expect(problem).toContain(`“${text}” is not a value for Value. Type `);
  // What the sentence gives as an example is understood.
  for (const example of problem
    .split('Type ')[1]
    .replace(/\.$/, '')
    .split(/, | or /)) {
    expect(typedValue(example, quantity)).toHaveProperty('value');
  }
});

test('a value outside the range is held at its end, and a sentence says so', () => {
  expect(typedValue('99', GAIN)).toEqual({ value: 24, note: 'Value goes from −24.0 dB to 24.0 dB.' });
  expect(typedValue('0.5:1', RATIO)).toEqual({ value: 1, note: 'Value goes from 1.0:1 to 20.0:1.' });
});
