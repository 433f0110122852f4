// House lanes as they are auditioned: all equally loud, by the meter of BS.1770, and none over its ceiling.
import { EMPTY_LANE } from '@/core/lane/schema';
import { HOUSE_LANES } from '@/core/house/ready-made';
import { Kernels } from '@/core/kernels/host';
import { LaneMeasurer } from '@/engine/measure/lane-measurer';
import { COMPARED_LUFS, renderPassage } from '@/engine/measure/render-passage';
import { sourceLevel } from '@/engine/measure/source-level';
import { programme } from '../support/programme';

const RATE = 44100;
const SPAN = { start: 2 * RATE, end: 6 * RATE };
const audio = programme(8, RATE);
const kernels = new Kernels();

test.each([{ name: 'Nothing', lane: EMPTY_LANE }, ...HOUSE_LANES])(
  '$name is heard at the common loudness and keeps within full scale; the master stays under its ceiling',
  async ({ lane }) => {
    const passage = renderPassage(audio, SPAN, lane, new Map(), kernels);
    const { integratedLufs, truePeakDbtp } = sourceLevel(
      { ...passage, sampleRate: RATE },
      { start: 0, end: SPAN.end - SPAN.start },
    );
    expect(Math.abs(integratedLufs - COMPARED_LUFS)).toBeLessThan(0.05);
    expect(truePeakDbtp).toBeLessThan(0);
    const { master } = await new LaneMeasurer(audio).run(lane, { turn: () => Promise.resolve(), output: null });
    if (lane.stages.length > 0) expect(master.truePeakDbtp).toBeLessThan(-0.9);
  },
);

test('a passage is what the whole lane gives there, and silence stays silence', async () => {
  const { lane } = HOUSE_LANES[1];
  const passage = renderPassage(audio, SPAN, lane, new Map(), kernels);
  const { left } = await new LaneMeasurer(audio).run(lane, { turn: () => Promise.resolve() });
  const whole = left.subarray(SPAN.start, SPAN.end);
  const gain = passage.left[RATE] / whole[RATE];
  const off = passage.left.reduce((most, x, i) => Math.max(most, Math.abs(x - gain * whole[i])), 0);
  // A second of lead is not the whole track: slow releases are a little apart.
  expect(off).toBeLessThan(0.01);
  const silent = { left: new Float32Array(8 * RATE), right: new Float32Array(8 * RATE), sampleRate: RATE };
  expect(renderPassage(silent, SPAN, lane).left.every((x) => Math.abs(x) < 1e-6)).toBe(true);
});
