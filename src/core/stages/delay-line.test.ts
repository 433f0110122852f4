import fc from 'fast-check';
import { noise } from '../../../tests/support/signals';
import { Kernels } from '../kernels/host';
import { DelayLine } from './delay-line';

const MAX_FRAMES = 256;

/** A signal and its mirror through a delay line, in blocks. */
function through(x: Float64Array, line: DelayLine, kernels: Kernels, blocks: readonly number[]): Float64Array[] {
  const channels = [0, 1].map(() => kernels.allocate(MAX_FRAMES * 8));
  const out = [new Float64Array(x.length), new Float64Array(x.length)];
  for (let at = 0, i = 0; at < x.length; i++) {
    const frames = Math.min(blocks[i % blocks.length], x.length - at);
    const views = channels.map((channel) => kernels.view64(channel, frames));
    views[0].set(x.subarray(at, at + frames));
    views[1].set(x.subarray(at, at + frames).map((value) => -value));
    line.process(channels[0], channels[1], frames);
    views.forEach((view, channel) => out[channel].set(view, at));
    at += frames;
  }
  return out;
}

test('a delay line gives each channel back later by its frames, whatever the blocks', () => {
  const x = noise(1500, 0.5);
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 700 }),
      fc.integer({ min: 0, max: 700 }),
      fc.array(fc.integer({ min: 1, max: MAX_FRAMES }), { minLength: 1, maxLength: 5 }),
      (most, wanted, blocks) => {
        const kernels = new Kernels();
        const line = new DelayLine(
          { kernels, maxFrames: MAX_FRAMES } as ConstructorParameters<typeof DelayLine>[0],
          most,
        );
        const frames = Math.min(wanted, most);
        line.set(frames);
        const [left, right] = through(x, line, kernels, blocks);
        const expected = Float64Array.from(x, (_, i) => x[i - frames] ?? 0);
        expect(left).toEqual(expected);
        expect(right).toEqual(expected.map((value) => (value === 0 ? value : -value)));
      },
    ),
    { numRuns: 40 },
  );
});

test('a line takes over what another holds, and goes on from there', () => {
  const kernels = new Kernels();
  const context = { kernels, maxFrames: MAX_FRAMES } as ConstructorParameters<typeof DelayLine>[0];
  const [first, second] = [new DelayLine(context, 300), new DelayLine(context, 300)];
  const x = noise(1024, 0.5);
  through(x.subarray(0, 512), first, kernels, [128]);
  second.set(300, first);
  const [left] = through(x.subarray(512), second, kernels, [128]);
  expect(left).toEqual(x.subarray(212, 724));
});
