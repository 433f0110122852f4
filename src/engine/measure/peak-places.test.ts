import { noise } from '../../../tests/support/signals';
import { peakPlaces } from './peak-places';

const RATE = 44100;
const FRAMES = 4 * RATE + 77;

/** Quiet noise with bursts of a quarter of the rate at 45°, whose samples are 3.01 dB below what lies between them. */
function signal(bursts: readonly { at: number; peak: number; channel: 0 | 1 }[]) {
  const channels = [Float32Array.from(noise(FRAMES, 0.01)), Float32Array.from(noise(FRAMES, 0.01, 9))];
  for (const { at, peak, channel } of bursts)
    for (let n = -40; n <= 40; n++)
      channels[channel][at + n] += peak * Math.cos((Math.PI * n) / 82) ** 2 * Math.sin((Math.PI / 2) * n + Math.PI / 4);
  return { left: channels[0], right: channels[1], sampleRate: RATE };
}

test('bursts are found in the order of time, each in its channel, between its samples', () => {
  const bursts = [
    { at: 20_000, peak: 0.7, channel: 1 },
    { at: 80_000, peak: 1.12, channel: 0 },
    // At the edge of two blocks.
    { at: 512 * 250, peak: 0.9, channel: 0 },
  ] as const;
  const places = peakPlaces(signal(bursts));
  const found = places.filter(({ truePeakDbtp }) => truePeakDbtp > -6);
  expect(found).toHaveLength(3);
  found.forEach(({ frame, channel, truePeakDbtp, samplePeakDbfs }, i) => {
    expect(Math.abs(frame - bursts[i].at)).toBeLessThanOrEqual(2);
    expect(channel).toBe(bursts[i].channel);
    expect(truePeakDbtp).toBeCloseTo(20 * Math.log10(bursts[i].peak), 0);
    expect(truePeakDbtp - samplePeakDbfs).toBeGreaterThan(2.5);
  });
  expect(places).toHaveLength(12);
});

test('every over is given, also where there are many', () => {
  const bursts = Array.from({ length: 30 }, (_, i) => ({ at: 5000 + 5000 * i, peak: 1.3, channel: 0 as const }));
  const overs = peakPlaces(signal(bursts)).filter(({ truePeakDbtp }) => truePeakDbtp > 0);
  expect(overs).toHaveLength(30);
});

test('silence has none', () => {
  expect(peakPlaces({ left: new Float32Array(2000), right: new Float32Array(2000), sampleRate: RATE })).toEqual([]);
});
