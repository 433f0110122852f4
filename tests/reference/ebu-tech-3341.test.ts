// Signals and tolerances of EBU Tech 3341 (minimum requirements test signals), from memory of the publication.
import { both, join, silence, sine, type Stereo } from '../support/signals';
import { loudnessOf, truePeakOf } from '../support/core';

const STEPS = Array.from({ length: 20 }, (_, i) => i);

describe.each([44100, 48000, 96000])('EBU Tech 3341 at %i Hz', (rate) => {
  const tone = (dbfs: number, seconds: number) => sine(1000, dbfs, seconds, rate);
  const measure = (...parts: Float64Array[]) => loudnessOf(both(join(...parts)), rate);
  /** Values of a series after a time in seconds. */
  const after = (series: Float32Array, seconds: number) => [...series.subarray(Math.round(seconds * 10) - 1)];
  const expectNear = (value: number, lufs: number) => expect(Math.abs(value - lufs)).toBeLessThanOrEqual(0.1);

  test.each([
    [1, -23],
    [2, -33],
  ])('signal %i: a steady tone reads %f LUFS as M, S and I', (_, level) => {
    const { momentary, shortTerm, integrated } = measure(tone(level, 20));
    expectNear(integrated, level);
    for (const value of after(momentary, 1)) expectNear(value, level);
    for (const value of after(shortTerm, 3)) expectNear(value, level);
  });

  test('signal 3: the relative gate leaves out quieter parts', () => {
    expectNear(measure(tone(-36, 10), tone(-23, 60), tone(-36, 10)).integrated, -23);
  });

  test('signal 4: the absolute gate leaves out what is near silence', () => {
    const parts = [tone(-72, 10), tone(-36, 10), tone(-23, 60), tone(-36, 10), tone(-72, 10)];
    expectNear(measure(...parts).integrated, -23);
  });

  test('signal 5: integrated loudness over three levels', () => {
    expectNear(measure(tone(-26, 20), tone(-20, 20.1), tone(-26, 20)).integrated, -23);
  });

  test('signal 9: short-term loudness is constant', () => {
    const parts = Array.from({ length: 5 }, () => [tone(-20, 1.34), tone(-30, 1.66)]).flat();
    for (const value of after(measure(...parts).shortTerm, 3)) expectNear(value, -23);
  });

  test('signal 10: highest short-term loudness of tones of 3 s that start anywhere', () => {
    for (const i of STEPS)
      expectNear(measure(silence(0.15 * i, rate), tone(-23, 3), silence(1, rate)).maxShortTerm, -23);
  });

  test('signal 11: highest short-term loudness follows tones of rising level', () => {
    for (const i of STEPS) expectNear(measure(tone(-38 + i, 3)).maxShortTerm, -38 + i);
  });

  test('signal 12: momentary loudness is constant', () => {
    const parts = Array.from({ length: 25 }, () => [tone(-20, 0.18), tone(-30, 0.22)]).flat();
    for (const value of after(measure(...parts).momentary, 1)) expectNear(value, -23);
  });

  test('signal 13: highest momentary loudness of tones of 0.4 s that start anywhere', () => {
    for (const i of STEPS)
      expectNear(measure(silence(0.02 * i, rate), tone(-23, 0.4), silence(1, rate)).maxMomentary, -23);
  });

  test('signal 14: highest momentary loudness follows tones of rising level', () => {
    for (const i of STEPS) expectNear(measure(tone(-38 + i, 0.4)).maxMomentary, -38 + i);
  });

  test.each([
    [15, 4, 0, 0.5, -6],
    [16, 4, 45, 0.5, -6],
    [17, 6, 60, 0.5, -6],
    [18, 8, 67.5, 0.5, -6],
    [19, 4, 45, 1.41, 3],
  ])('signal %i: true peak of fs/%i at %f° and amplitude %f is %f dBTP', (_, divisor, phase, amplitude, expected) => {
    const frames = rate / 4;
    // The tone fades in and out, as the published signals do, so that its edges make no peak of their own.
    const shaped = sine(rate / divisor, 20 * Math.log10(amplitude), 1, rate, phase).map(
      (x, i) => x * Math.min(1, i / frames, (rate - i) / frames),
    );
    const signal: Stereo = both(shaped);
    const reading = truePeakOf(signal);
    expect(reading).toBeLessThanOrEqual(expected + 0.2);
    expect(reading).toBeGreaterThanOrEqual(expected - 0.4);
  });
});
