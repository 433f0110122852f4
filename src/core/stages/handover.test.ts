import { Kernels } from '../kernels/host';
import { DEFAULT_CROSSOVERS } from './bands/crossovers';
import { DelayLine } from './delay-line';
import { Handover, type Unit } from './handover';

const RATE = 44100;
const context = () => {
  const kernels = new Kernels();
  return {
    kernels,
    sampleRate: RATE,
    maxFrames: 512,
    crossovers: DEFAULT_CROSSOVERS,
    impulses: new Map(),
    use: 'delivery' as const,
  };
};

/** A unit that multiplies, and notes what it was set to and after whom. */
class Gain implements Unit<number> {
  gain = 0;
  readonly log: [gain: number, before: number | undefined][] = [];

  constructor(private readonly kernels: Kernels) {}

  set(gain: number, before?: Gain): void {
    this.gain = gain;
    this.log.push([gain, before?.gain]);
  }

  process(left: number, right: number, frames: number): void {
    for (const side of [left, right]) for (let i = 0; i < frames; i++) this.kernels.f64[(side >> 3) + i] *= this.gain;
  }
}

describe('an handover of units', () => {
  const of = context();
  const { kernels } = of;
  const [first, second] = [new Gain(kernels), new Gain(kernels)];
  const handover = new Handover(of, first, second, 1);
  const [left, right] = [kernels.allocate(4096), kernels.allocate(4096)];
  const run = (frames: number) => {
    kernels.view64(left, frames).fill(1);
    kernels.view64(right, frames).fill(-1);
    handover.process(left, right, frames);
    return kernels.view64(left, frames).slice();
  };

  test('goes from the one to the other without a step', () => {
    expect(new Set(run(512))).toEqual(new Set([1]));
    handover.set(3);
    const way = Array.from({ length: 8 }, () => [...run(512)]).flat();
    expect(second.log).toEqual([[3, 1]]);
    expect(way[0]).toBe(1);
    expect(way.at(-1)).toBe(3);
    for (let i = 1; i < way.length; i++) {
      expect(way[i] - way[i - 1]).toBeGreaterThanOrEqual(-1e-12);
      expect(way[i] - way[i - 1]).toBeLessThan(0.006);
    }
    expect(handover.heard).toBe(second);
    expect(kernels.view64(right, 1)[0]).toBe(-3);
  });

  test('what is asked for on the way comes last, and only the newest', () => {
    handover.set(5);
    run(128);
    handover.set(7);
    handover.set(9);
    for (let i = 0; i < 20; i++) run(512);
    expect(handover.heard.gain).toBe(9);
    expect([...first.log, ...second.log].map(([gain]) => gain)).not.toContain(7);
    expect(first.log.at(-1)).toEqual([5, 3]);
    expect(second.log.at(-1)).toEqual([9, 5]);
  });
});

describe('a delay line', () => {
  /** What comes out of a counter in blocks. */
  function through(delay: number, blocks: number[], most = delay): number[] {
    const of = context();
    const line = new DelayLine(of, most);
    line.set(delay);
    const [left, right] = [of.kernels.allocate(4096), of.kernels.allocate(4096)];
    let next = 1;
    return blocks.flatMap((frames) => {
      for (let i = 0; i < frames; i++, next++) {
        of.kernels.f64[(left >> 3) + i] = next;
        of.kernels.f64[(right >> 3) + i] = -next;
      }
      line.process(left, right, frames);
      for (let i = 0; i < frames; i++)
        expect(of.kernels.f64[(right >> 3) + i] + of.kernels.f64[(left >> 3) + i]).toBe(0);
      return [...of.kernels.view64(left, frames)];
    });
  }

  test.each([
    [0, [128, 128]],
    [1, [128, 256, 512]],
    [100, [512, 128, 512, 384]],
    [700, [512, 512, 512, 512]],
  ])('of %i frames gives what went in so long ago', (delay, blocks) => {
    const out = through(delay, blocks);
    out.forEach((x, i) => expect(x).toBe(Math.max(0, i + 1 - delay)));
  });

  test('of none passes, and still remembers for a longer one', () => {
    const of = context();
    const [line, next] = [new DelayLine(of, 300), new DelayLine(of, 300)];
    const [left, right] = [of.kernels.allocate(4096), of.kernels.allocate(4096)];
    line.set(0);
    of.kernels.view64(left, 256).forEach((_, i, view) => (view[i] = i + 1));
    line.process(left, right, 256);
    expect(of.kernels.view64(left, 256)[255]).toBe(256);
    next.set(200, line);
    of.kernels.view64(left, 128).fill(1000);
    next.process(left, right, 128);
    expect([...of.kernels.view64(left, 3)]).toEqual([57, 58, 59]);
  });
});
