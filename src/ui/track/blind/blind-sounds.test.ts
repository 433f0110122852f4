import { sourceLevel } from '../../../engine/measure/source-level';
import { equallyLoud, passageOf, separated } from './blind-sounds';

const RATE = 44100;
const RUNNER = { measure: (...args: Parameters<typeof sourceLevel>) => Promise.resolve(sourceLevel(...args)) };

/** Both sides alike: a tone that swells, at a level. */
function tone(gain: number, frames = 2 * RATE) {
  const left = Float32Array.from({ length: frames }, (_, i) => gain * (0.2 + i / frames) * Math.sin(0.1 * i));
  return { left, right: left.map((x) => -x) };
}
const heard = (gain: number, offset = 0) => ({
  name: 'x',
  buffer: tone(gain),
  place: { offset, loop: null },
});

test('a passage is cut at the place where the candidate stands, and silent where that has nothing', () => {
  const { left, right } = passageOf(heard(1, -50), { start: 30, end: 90 });
  const whole = tone(1).left;
  expect(left).toHaveLength(60);
  expect([...left.subarray(0, 20)]).toEqual(new Array(20).fill(0));
  expect([...left.subarray(20)]).toEqual([...whole.subarray(0, 40)]);
  expect(right[59]).toBe(-left[59]);
});

test('a candidate with a loop of its own goes round in it', () => {
  const looped = { ...heard(1), place: { offset: 0, loop: { start: 100, end: 110 } } };
  const { left } = passageOf(looped, { start: 100, end: 130 });
  expect([...left.subarray(10, 20)]).toEqual([...left.subarray(0, 10)]);
  expect([...left.subarray(20, 30)]).toEqual([...left.subarray(0, 10)]);
});

test('what is sent is equally loud, and nothing is raised over full scale', async () => {
  const passage = { start: 1000, end: 1000 + RATE };
  const candidates = [heard(0.1), heard(0.5), heard(0.8, 20)];
  const sent = await equallyLoud(candidates, passage, RATE, RUNNER);
  const levels = sent.map((bytes) => sourceLevel({ ...separated(bytes), sampleRate: RATE }, { start: 0, end: RATE }));
  for (const { integratedLufs, truePeakDbtp } of levels) {
    expect(Math.abs(integratedLufs - levels[0].integratedLufs)).toBeLessThan(0.01);
    expect(truePeakDbtp).toBeLessThan(0.01);
  }
});
