import { noise } from '../../../../tests/support/signals';
import { BalanceMeter } from '../../../core/measure/balance';
import { SpectrumAnalyser } from '../../../core/measure/spectrum';
import { frequencyAt } from './equalizer-axes';
import { thirdOctaveColumns } from './reference-line';
import { columnsOf } from './spectrum-line';

const RATE = 48000;
const SIZE = 8192;
const COLUMNS = 200;

test.each([0, 3, 4.5])('it lies on the spectrum of the same noise, with a tilt of %d dB', (tiltDb) => {
  const signal = noise(20 * RATE, 0.2);
  const meter = new BalanceMeter(RATE);
  meter.add(signal, signal);
  const levelsDbfs = meter.result().map(({ levelDbfs }) => levelDbfs);
  // The same programme through the transform of the picture, averaged by power.
  const analyser = new SpectrumAnalyser(SIZE);
  const bins = new Float32Array(SIZE / 2);
  const power = new Float64Array(SIZE / 2);
  const windows = Math.floor(signal.length / SIZE);
  for (let i = 0; i < windows; i++) {
    analyser.levels(Float32Array.from(signal.subarray(i * SIZE, (i + 1) * SIZE)), bins);
    bins.forEach((db, k) => (power[k] += 10 ** (db / 10) / windows));
  }
  const average = Float32Array.from(power, (x) => 10 * Math.log10(x));
  const spectrum = columnsOf(average, RATE, COLUMNS, 'medium', tiltDb);
  const line = thirdOctaveColumns({ levelsDbfs, gainDb: 0, tiltDb, binHz: RATE / SIZE }, COLUMNS);
  line.forEach((db, x) => {
    const hz = frequencyAt(x / (COLUMNS - 1));
    if (hz > 100 && hz < 18000) expect(Math.abs(db - spectrum[x])).toBeLessThan(1);
  });
  const louder = thirdOctaveColumns({ levelsDbfs, gainDb: 6, tiltDb, binHz: RATE / SIZE }, COLUMNS);
  expect(louder[100] - line[100]).toBeCloseTo(6, 4);
});

test('where nothing was measured there is no line', () => {
  const levelsDbfs = [...new Array<number>(20).fill(-20), ...new Array<null>(10).fill(null)];
  const line = thirdOctaveColumns({ levelsDbfs, gainDb: 0, tiltDb: 0, binHz: 6 }, COLUMNS);
  expect(Number.isFinite(line[100])).toBe(true);
  expect(line[COLUMNS - 1]).toBeNaN();
});
