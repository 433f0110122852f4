import { noise, sine } from '../../../tests/support/signals';
import { parseLane, type Lane } from '../../core/lane/schema';
import { LaneMeasurer } from './lane-measurer';
import type { Audio } from './measurement';

const RATE = 44100;
/** Not a whole number of blocks. */
const FRAMES = 4 * RATE + 123;
const hiss = noise(FRAMES, 0.1);
const audio: Audio = {
  left: Float32Array.from(sine(220, -14, FRAMES / RATE, RATE), (x, i) => x * Math.sin(i / 9000) + hiss[i]),
  right: Float32Array.from(hiss, (x) => -x),
  sampleRate: RATE,
};
const stage = (id: string, kind: string, settings: object, on = true) => ({ id, kind, on, settings });
const lanes: Record<string, Lane> = {
  'an empty lane': parseLane({ schema: 1, stages: [] }),
  'a lane with latency': parseLane({
    schema: 1,
    stages: [
      stage('a', 'trim', { gainDb: 6 }),
      stage('b', 'equalizer', { bands: [{ shape: 'bell', frequencyHz: 400, gainDb: 6, q: 1 }] }),
      stage('c', 'clipper', {}, false),
      stage('d', 'limiter', { inputGainDb: 9 }),
    ],
  }),
};
const output = () => ({ left: new Float32Array(FRAMES), right: new Float32Array(FRAMES) });

test.each(Object.entries(lanes))(
  '%s is rendered to the same bits and level as when it is measured whole',
  async (_, lane) => {
    const shares: number[] = [];
    const turn = (share: number) => Promise.resolve(void shares.push(share));
    const whole = await new LaneMeasurer(audio).run(lane, { turn: () => Promise.resolve() });
    const rendered = await new LaneMeasurer(audio).render(lane, { turn, output: output() });
    expect(Buffer.from(rendered.left.buffer).equals(Buffer.from(whole.left.buffer))).toBe(true);
    expect(Buffer.from(rendered.right.buffer).equals(Buffer.from(whole.right.buffer))).toBe(true);
    const { integratedLufs, truePeakDbtp } = whole.master;
    expect(rendered.master).toEqual({ integratedLufs, truePeakDbtp });
    expect(shares.at(-1)).toBe(1);
  },
);

test('it ends when it is no longer wanted', async () => {
  const turn = () => Promise.reject(new Error('unwanted'));
  const rendering = new LaneMeasurer(audio).render(lanes['an empty lane'], { turn, output: output() });
  await expect(rendering).rejects.toThrow('unwanted');
});
