// The loudness of several programmes as one, against ffmpeg's ebur128 filter over the concatenated programme (ffmpeg-filters(1)),
// and against our own meter over the same.
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { albumLoudness, loudnessCounts } from '@/core/sequence/album-loudness';
import { loudnessOf } from '../support/core';
import { ebur128 } from '../support/ffmpeg';
import { music } from '../support/music';
import { both, sine, type Stereo } from '../support/signals';
import { writeWave } from '../support/wave';

const RATE = 48000;
const scaled = ({ left, right }: Stereo, gain: number): Stereo => ({
  left: left.map((x) => x * gain),
  right: right.map((x) => x * gain),
});

/** One after the other. */
function joined(programmes: readonly Stereo[]): Stereo {
  const length = programmes.reduce((sum, { left }) => sum + left.length, 0);
  const whole = { left: new Float64Array(length), right: new Float64Array(length) };
  let at = 0;
  for (const { left, right } of programmes) {
    whole.left.set(left, at);
    whole.right.set(right, at);
    at += left.length;
  }
  return whole;
}

const PROGRAMMES: Record<string, Stereo[]> = {
  'a loud and a quiet track': [music(20, RATE), scaled(music(15, RATE), 0.2)],
  // The quiet one falls below the relative gate of the whole, not below its own.
  'a track below the gate of the album': [music(20, RATE), scaled(music(20, RATE), 0.05)],
  'three tones, one of them far down': [-10, -23, -60].map((level) => both(sine(997, level, 10, RATE))),
  'a track with silence': [music(30, RATE), both(new Float64Array(5 * RATE))],
};

test.each(Object.entries(PROGRAMMES))('%s', (_, programmes) => {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-album-'));
  try {
    const album = albumLoudness(programmes.map((each) => loudnessCounts(loudnessOf(each, RATE).momentary)));
    const whole = joined(programmes);
    const file = path.join(folder, 'album.wav');
    writeWave(file, whole, RATE, '32f');
    expect(Math.abs(album - ebur128(file).integrated)).toBeLessThan(0.1);
    // Blocks over the joints are in the one and not in the other.
    expect(Math.abs(album - loudnessOf(whole, RATE).integrated)).toBeLessThan(0.06);
  } finally {
    rmSync(folder, { recursive: true });
  }
});

test('counting loses less than a hundredth of a LU of one programme', () => {
  for (const gain of [1, 0.31, 0.07]) {
    const { integrated, momentary } = loudnessOf(scaled(music(30, RATE), gain), RATE);
    expect(Math.abs(albumLoudness([loudnessCounts(momentary)]) - integrated)).toBeLessThan(0.01);
  }
});

test('silence has no loudness', () => {
  expect(albumLoudness([loudnessCounts(new Float32Array(40).fill(-Infinity))])).toBe(-Infinity);
});
