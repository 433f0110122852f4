import { DITHERS, type Dither } from './dither';
import { errorColumnHz, errorSpectrum } from './error-spectrum';

const COLUMNS = 60;
const of = (dither: Dither, rate = 44100) => errorSpectrum(dither, 16, rate, COLUMNS);
/** Mean level of the columns between two frequencies. */
function level(columns: Float32Array, from: number, to: number, rate = 44100): number {
  const within = [...columns].filter((_, x) => {
    const hz = errorColumnHz((x + 0.5) / COLUMNS, rate);
    return hz > from && hz < to;
  });
  return within.reduce((sum, db) => sum + db, 0) / within.length;
}

test('TPDF is white, three times the power of rounding; its total is that of the books', () => {
  const { columns, totalDbfs, weightedDb } = of('TPDF');
  expect(level(columns, 100, 1000)).toBeCloseTo(4.77, 0);
  expect(level(columns, 5000, 20000)).toBeCloseTo(4.77, 0);
  // 93.3 dB below a sine of full scale (Vanderkooy and Lipshitz).
  expect(totalDbfs).toBeCloseTo(-93.3, 0);
  expect(Math.abs(weightedDb)).toBeLessThan(0.5);
});

test('high-pass dither has less in the lows, shaped noise less where one hears it, and more in all', () => {
  const [tpdf, highPass, shaped] = (['TPDF', 'high-pass TPDF', 'noise-shaped'] as const).map((dither) => of(dither));
  expect(level(highPass.columns, 100, 1000)).toBeLessThan(level(tpdf.columns, 100, 1000) - 4);
  expect(level(shaped.columns, 2500, 4000)).toBeLessThan(level(tpdf.columns, 2500, 4000) - 20);
  expect(shaped.weightedDb).toBeCloseTo(-15.4, 0);
  expect(shaped.totalDbfs - tpdf.totalDbfs).toBeCloseTo(18.4, 0);
});

test('without dither the error is a row of tones: distortion', () => {
  const { columns } = of('none');
  const audible = [...columns].slice(20);
  const spread = Math.max(...audible) - Math.min(...audible);
  expect(spread).toBeGreaterThan(25);
  expect(Math.max(...of('TPDF').columns.slice(20)) - Math.min(...of('TPDF').columns.slice(20))).toBeLessThan(10);
});

test.each([48000, 96000, 192000])('at %d Hz all of them are measured', (rate) => {
  for (const dither of DITHERS) expect(of(dither, rate).columns.every(Number.isFinite)).toBe(true);
  expect(of('noise-shaped', rate).weightedDb).toBeLessThan(-15);
});
