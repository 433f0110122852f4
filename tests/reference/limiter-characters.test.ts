// Recoveries, links, detections and what stands before the limiter, each against how it is documented.
import { LaneProcessor } from '@/core/lane/processor';
import { LANE_SCHEMA, parseLane } from '@/core/lane/schema';
import { LIMITER_PAIR } from '@/core/stages/limiter/pair';
import { PIECES } from '@/demo/pieces';
import { aligned, throughLane } from '../support/core';
import { both, db, difference, join, noise, sine, type Stereo } from '../support/signals';
import { spectrumOf } from '../support/spectrum';
import { annex2TruePeak, fineTruePeak } from '../support/true-peak';
import { music } from '../support/music';

const RATE = 48000;
const { abs, max, min } = Math;
const limiter = (settings: object) => [{ kind: 'limiter', settings: { ceilingDbtp: 0, ...settings } }];

/** Gain in dB at a time, of a lone side: crests of a 1 kHz tone of −20 dBFS that follows something loud. */
function gainAfter(loudSeconds: number, settings: object, seconds: number): number {
  const tone = (dbfs: number, length: number) => sine(1000, dbfs, length, RATE);
  const signal = both(join(tone(-20, 0.2), tone(6, loudSeconds), tone(-20, 3)));
  const { left } = aligned(signal, limiter(settings), RATE);
  const at = Math.round((0.2 + loudSeconds + seconds) * RATE);
  return db(left.subarray(at, at + 48).reduce((a, b) => max(a, b), 0)) + 20;
}

/** Share of the way back, in the linear gain that recovers. */
const back = (gainDb: number) => (10 ** (gainDb / 20) - 0.5012) / (1 - 0.5012);

test.each([30, 200, 800])('a recovery of %i ms is 63 %% back in that time', (recoveryMs) => {
  const came = back(gainAfter(0.5, { recoveryMs }, recoveryMs / 1000));
  // The hold and the smoothing after a peak shift the curve by a few milliseconds.
  expect(came).toBeGreaterThan(recoveryMs < 100 ? 0.5 : 0.6);
  expect(came).toBeLessThan(0.66);
});

test('auto recovery lets a single peak go quickly and what lasts slowly, by its amount', () => {
  const after = (loud: number, autoRecoveryPercent: number) =>
    back(gainAfter(loud, { autoRecoveryPercent, recoveryMs: 50 }, 0.15));
  expect(after(0.004, 100)).toBeGreaterThan(0.8);
  expect(abs(after(0.004, 100) - after(0.004, 0))).toBeLessThan(0.15);
  // After 2 s the memory is full and holds 70 % of the reduction back, or half of that.
  expect(after(2, 0)).toBeGreaterThan(0.9);
  expect(after(2, 100)).toBeLessThan(0.45);
  expect(after(2, 100)).toBeGreaterThan(0.25);
  expect(after(2, 50)).toBeGreaterThan(0.58);
  expect(after(2, 50)).toBeLessThan(0.75);
});

/** Quick, slow and automatic recovery. */
const RECOVERIES = [{ recoveryMs: 30 }, { recoveryMs: 480 }, { recoveryMs: 30, autoRecoveryPercent: 100 }];

test('channels that are alike are held alike to the last bit, linked or each by itself', () => {
  const alike = both(music(3, RATE).left);
  const held = (settings: object) => aligned(alike, limiter({ inputGainDb: 12, ...settings }), RATE);
  for (const recovery of RECOVERIES) {
    const linked = held(recovery);
    expect(difference(linked.right, linked.left)).toBe(0);
    for (const links of [{ linkPercent: 0, rejoinMs: 2000 }, { linkPercent: 35 }]) {
      const apart = held({ ...recovery, ...links });
      expect(difference(apart.left, linked.left)).toBe(0);
      expect(difference(apart.right, linked.left)).toBe(0);
    }
  }
});

/** A loud left and a quiet right channel. */
const lopsided: Stereo = { left: sine(500, 6, 1, RATE), right: sine(700, -20, 1, RATE) };
const rightGain = (settings: object) => {
  const { right } = aligned(lopsided, limiter(settings), RATE);
  return db(right.subarray(20000, 24000).reduce((a, b) => max(a, abs(b)), 0)) + 20;
};

test('what is not linked stays as it is, and half a link takes half of the reduction', () => {
  expect(rightGain({})).toBeCloseTo(-6, 1);
  expect(rightGain({ linkPercent: 0, rejoinMs: 2000 })).toBeCloseTo(0, 3);
  // Half way between gains of 1 and 0.501.
  expect(rightGain({ linkPercent: 50, rejoinMs: 2000 })).toBeCloseTo(db(0.7506), 1);
});

test('a linked recovery holds the side back that would be free', () => {
  const free = rightGain({ linkPercent: 0, rejoinMs: 2000 });
  const held = rightGain({ linkPercent: 0, rejoinMs: 0 });
  expect(held).toBeLessThan(free - 3);
});

test('channels come together in the rejoin time', () => {
  // The left one becomes loud; the right one never is.
  const left = join(sine(500, -20, 0.5, RATE), sine(500, 6, 1.5, RATE));
  const right = sine(700, -20, 2, RATE);
  const gain = (rejoinMs: number, seconds: number) => {
    const out = aligned({ left, right }, limiter({ linkPercent: 0, recoveryMs: 4000, rejoinMs }), RATE);
    const at = Math.round((0.5 + seconds) * RATE);
    return db(out.right.subarray(at, at + 480).reduce((a, b) => max(a, abs(b)), 0)) + 20;
  };
  expect(abs(gain(2000, 1))).toBeLessThan(0.01);
  expect(abs(gain(0, 0.05) + 6)).toBeLessThan(0.2);
  // 63 % of the way from a gain of 1 to 0.501 in 200 ms.
  expect(gain(200, 0.01)).toBeGreaterThan(-0.8);
  expect(abs(gain(200, 0.2) - db(1 - 0.63 * 0.499))).toBeLessThan(0.5);
  expect(gain(200, 1.2)).toBeLessThan(-5);
});

test.each(RECOVERIES)('the ceiling holds on either channel with %o and any link', (recovery) => {
  for (const linkPercent of [0, 35, 99]) {
    for (const rejoinMs of [0, 150, 2000]) {
      const signal = { left: noise(RATE / 2, 1, 3), right: noise(RATE / 2, 0.4, 4) };
      const settings = { ...recovery, linkPercent, rejoinMs, inputGainDb: 9, emphasisDb: 3.5, emphasisLowHz: 300 };
      const { left, right } = throughLane(signal, limiter(settings), RATE);
      expect(db(max(annex2TruePeak(left), annex2TruePeak(right)))).toBeLessThan(0.05);
    }
  }
});

test.each([44100, 192000])('music stays below the ceiling at %i Hz, by 4x and by 8x, and by two in series', (rate) => {
  const loud = music(1, rate, 0.9);
  const ceilingDbtp = -1;
  const ways = [
    limiter({ inputGainDb: 9, ceilingDbtp }),
    limiter({ inputGainDb: 9, ceilingDbtp, detection: 'true8' }),
    LIMITER_PAIR.map((limiter) => ({ kind: 'limiter', ...limiter })),
  ];
  for (const way of ways) {
    const { left } = throughLane(loud, way, rate);
    expect(db(annex2TruePeak(left)) - ceilingDbtp).toBeLessThan(0.05);
    const around = left.subarray(rate / 2, rate / 2 + 8192);
    expect(db(fineTruePeak(around)) - ceilingDbtp).toBeLessThan(0.2);
  }
});

test('the loudest piece of the demo stays below the ceiling', () => {
  const { left, right, sampleRate } = PIECES.find(({ title }) => title === 'Debris Field')!.make();
  const part = (side: Float32Array | Float64Array) =>
    Float64Array.from(side.subarray(20 * sampleRate, 24 * sampleRate));
  const settings = { inputGainDb: 6, ceilingDbtp: -1 };
  const out = throughLane({ left: part(left), right: part(right) }, limiter(settings), sampleRate);
  for (const side of [out.left, out.right]) {
    expect(db(annex2TruePeak(side)) + 1).toBeLessThan(0.05);
    expect(db(fineTruePeak(side.subarray(40000, 48192))) + 1).toBeLessThan(0.2);
  }
});

test('looking at samples alone holds the samples, and lets true peaks pass', () => {
  const between = both(sine(RATE / 4, 3, 0.5, RATE, 45));
  const { left } = throughLane(between, limiter({ inputGainDb: 6, detection: 'sample' }), RATE);
  const settled = left.subarray(RATE / 4, RATE / 2);
  expect(db(settled.reduce((a, b) => max(a, abs(b)), 0))).toBeLessThan(0.001);
  expect(db(annex2TruePeak(settled))).toBeGreaterThan(2);
});

test('emphasis raises a hit by what is stated at most, and leaves a steady tone alone', () => {
  const steady = sine(300, -30, 1, RATE);
  const hits = steady.map((x, i) => (i % 12000 < 2400 ? x * 8 : x));
  for (const most of [1, 2, 3.5, 6]) {
    const through = (x: Float64Array) => aligned(both(x), limiter({ emphasisDb: most }), RATE).left;
    const raised = through(hits);
    const peak = (x: Float64Array, from: number, to: number) =>
      x.subarray(from, to).reduce((a, b) => max(a, abs(b)), 0);
    const gain = db(peak(raised, 36000, 36960) / peak(hits, 36000, 36960));
    expect(gain).toBeLessThan(most + 0.05);
    expect(gain).toBeGreaterThan(0.7 * most);
    const calm = through(steady);
    expect(abs(db(peak(calm, 24000, 40000) / peak(steady, 24000, 40000)))).toBeLessThan(0.05);
  }
});

test('emphasis in a band raises hits there and no others', () => {
  const hits = (hz: number) => sine(hz, -30, 1, RATE).map((x, i) => (i % 12000 < 2400 ? x * 8 : x));
  const raised = (hz: number) => {
    const dry = hits(hz);
    const settings = { emphasisDb: 4, emphasisLowHz: 2000, emphasisHighHz: 12000 };
    const { left } = aligned(both(dry), limiter(settings), RATE);
    const peak = (x: Float64Array) => x.subarray(36000, 36960).reduce((a, b) => max(a, abs(b)), 0);
    return db(peak(left) / peak(dry));
  };
  expect(raised(5000)).toBeGreaterThan(2.5);
  expect(raised(5000)).toBeLessThan(4.05);
  expect(abs(raised(80))).toBeLessThan(0.1);
});

test('limiting each band first keeps the treble up while the bass is held', () => {
  const bass = sine(60, 6, 1, RATE);
  const signal = both(sine(6000, -20, 1, RATE).map((x, i) => x + bass[i]));
  const treble = (settings: object) => {
    const { left } = aligned(signal, limiter({ recoveryMs: 300, ...settings }), RATE);
    return spectrumOf(left.subarray(RATE / 2, RATE / 2 + 24000), RATE)(6000);
  };
  expect(treble({})).toBeLessThan(-25);
  expect(treble({ preLimited: true, preLimitDb: -2 })).toBeGreaterThan(-21.5);
});

test('listening without the gain takes it out while listening, and only then', () => {
  const lane = parseLane({
    schema: LANE_SCHEMA,
    stages: [{ id: 'l', kind: 'limiter', settings: { inputGainDb: 6, listenEven: true } }],
  });
  const level = (use: 'listening' | 'delivery') => {
    const processor = new LaneProcessor(lane, { sampleRate: RATE, maxFrames: 1024, meterHops: 0, use });
    for (let i = 0; i < 20; i++) {
      processor.left.fill(0.1);
      processor.right.fill(0.1);
      processor.process(1024);
    }
    return min(...processor.left);
  };
  expect(db(level('listening') / 0.1)).toBeCloseTo(0, 4);
  expect(db(level('delivery') / 0.1)).toBeCloseTo(6, 4);
});
