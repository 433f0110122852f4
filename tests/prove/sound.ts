// The sound, measured by programs that are not ours: filters against SciPy, true peaks and loudness against ffmpeg, dither by
// its statistics. Settings are drawn at random; the seed makes a run repeatable.
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { EMPTY_LANE, parseLane, LANE_SCHEMA, type Lane } from '@/core/lane/schema';
import { Random } from '@/core/signal/random';
import { SHAPES, SLOPES } from '@/core/stages/equalizer/settings';
import { render } from '@/server/render/render';
import { throughLane } from '../support/core';
import { ebur128, ffmpeg } from '../support/ffmpeg';
import { python } from '../support/python';
import { noise, type Stereo } from '../support/signals';
import { writeWave } from '../support/wave';

export interface SoundOptions {
  /** Bands of equalizers, masters with a change of rate, and files whose dither is compared. */
  bands: number;
  masters: number;
  dithers: number;
  seed: number;
}

const { abs, max, sqrt } = Math;
const RATE = 44100;

/** Largest difference in dB between a band's impulse response and SciPy's evaluation of its prototype, from 20 Hz to 20 kHz. */
const SCIPY = `
import json, sys, numpy as np
from scipy import signal
bands, rate = json.load(sys.stdin)
out = []
f = np.geomspace(20, 20000, 200)
for shape, f0, gain, q, slope, impulse in bands:
    a = 10 ** (gain / 40); r = np.sqrt(a) / q
    if shape in ('highPass', 'lowPass') and slope == 12:
        b, c = ([1, 0, 0] if shape == 'highPass' else [1]), [1, 1 / q, 1]
    elif shape in ('highPass', 'lowPass'):
        b, c = signal.butter(slope // 6, 1, 'high' if shape == 'highPass' else 'low', analog=True)
    else:
        b, c = {
            'bell': ([1, a / q, 1], [1, 1 / (a * q), 1]),
            'lowShelf': ([a, a * r, a * a], [a, r, 1]),
            'highShelf': ([a * a, a * r, a], [1, r, a]),
            'tilt': ([a * a, 1], [1, a * a]),
            'bandPass': ([1 / q, 0], [1, 1 / q, 1]),
            'notch': ([1, 0, 1], [1, 1 / q, 1]),
        }[shape]
    wanted = 20 * np.log10(np.abs(signal.freqs(b, c, f / f0)[1]) + 1e-30)
    got = 20 * np.log10(np.abs(signal.freqz(impulse, 1, f, fs=rate)[1]) + 1e-30)
    heard = wanted > -80
    out.append(float(np.max(np.abs(got - wanted)[heard])))
print(json.dumps(out))
`;

function bands(count: number, random: Random): void {
  const between = (low: number, high: number) => low * (high / low) ** random.uniform();
  const pick = <T>(all: readonly T[]) => all[Math.floor(random.uniform() * all.length)];
  const drawn = Array.from({ length: count }, () => ({
    shape: pick(SHAPES),
    // What rings for longer than the response is measured is not drawn.
    frequencyHz: between(100, 20000),
    gainDb: (random.uniform() - 0.5) * 36,
    q: between(0.3, 10),
    slopeDbPerOctave: pick(SLOPES),
  }));
  const impulse = () => Float64Array.from({ length: 32768 }, (_, i) => (i === 0 ? 1 : 0));
  const measured = drawn.map((band) => {
    const { left } = throughLane(
      { left: impulse(), right: impulse() },
      [{ kind: 'equalizer', settings: { bands: [band] } }],
      RATE,
    );
    return [band.shape, band.frequencyHz, band.gainDb, band.q, band.slopeDbPerOctave, [...left]];
  });
  const errors = python<number[]>(SCIPY, [measured, RATE]);
  errors.forEach((error, i) => {
    if (!(error <= 0.1)) throw new Error(`A band is ${error} dB off its prototype: ${JSON.stringify(drawn[i])}`);
  });
}

const laneOf = (...stages: object[]): Lane =>
  stages.length === 0
    ? EMPTY_LANE
    : parseLane({ schema: LANE_SCHEMA, stages: stages.map((stage, i) => ({ id: String(i), ...stage })) });

async function make(
  folder: string,
  name: string,
  lane: Lane,
  depth: 16 | 24,
  outputRate: number,
  guardDbtp: number | null,
) {
  const output = path.join(folder, `out-${name}`);
  const made = await render({
    ...{ input: path.join(folder, name), channels: 2, inputRate: 48000, inputBits: 32, frames: 0, lane, levelDb: 0 },
    ...{
      outputRate,
      depth,
      dither: 'TPDF',
      format: 'WAV',
      guardDbtp,
      output,
      scratch: `${output}.raw`,
      onProgress: () => {},
    },
  });
  return { output, made };
}

/** Music that was hammered flat at its own rate, and is hotter at another. */
function flat(random: Random): Stereo {
  const side = (seed: number) => {
    const raw = noise(96_000, 1, seed);
    let held = 0;
    const pole = 0.2 + 0.7 * random.uniform();
    return raw.map((x) => {
      held += (1 - pole) * (x - held);
      return max(-0.95, Math.min(0.95, 4 * held));
    });
  };
  return { left: side(random.integer()), right: side(random.integer()) };
}

async function masters(count: number, folder: string, random: Random): Promise<void> {
  for (let i = 0; i < count; i++) {
    const name = `flat-${i}.wav`;
    writeWave(path.join(folder, name), flat(random), 48000, '32f');
    const ceilingDbtp = -0.2 - 2 * random.uniform();
    const limiter = {
      kind: 'limiter',
      settings: { ceilingDbtp, detection: 'sample', inputGainDb: 6 * random.uniform() },
    };
    const { output, made } = await make(folder, name, laneOf(limiter), 24, RATE, ceilingDbtp);
    const { truePeak } = ebur128(output);
    // ffmpeg shows tenths, and reads noise just below the Nyquist frequency 0.2 dB higher.
    if (truePeak > ceilingDbtp + 0.25)
      throw new Error(`A ceiling of ${ceilingDbtp} dBTP reads ${truePeak} in the file.`);
    if (made.clipped > 0)
      throw new Error(`${made.clipped} samples were clipped below a ceiling of ${ceilingDbtp} dBTP.`);
  }
}

function leftOf(file: string): Float64Array {
  const all = new Float64Array(
    Uint8Array.from(ffmpeg(['-i', file, '-f', 'f64le', '-c:a', 'pcm_f64le', '-']).out).buffer,
  );
  return Float64Array.from({ length: all.length / 2 }, (_, i) => all[2 * i]);
}

async function dithers(count: number, folder: string, random: Random): Promise<void> {
  const lsb = 1 / 32768;
  const rms = (x: Float64Array) => sqrt(x.reduce((sum, v) => sum + v * v, 0) / x.length);
  const errors: Float64Array[] = [];
  for (let i = 0; i < count; i++) {
    const name = `dither-${i}.wav`;
    const signal = { left: noise(48_000, 0.4, random.integer()), right: noise(48_000, 0.4, random.integer()) };
    writeWave(path.join(folder, name), signal, 48000, '32f');
    const { output } = await make(folder, name, laneOf(), 16, 48000, null);
    errors.push(leftOf(output).map((x, k) => (x - Math.fround(signal.left[k])) / lsb));
  }
  for (const [i, error] of errors.entries()) {
    if (abs(rms(error) - 0.5) > 0.01)
      throw new Error(`The error of a dithered file is ${rms(error)} LSB rms, not 0.5.`);
    for (const other of errors.slice(0, i)) {
      const correlation = error.reduce((sum, v, k) => sum + v * other[k], 0) / error.length / 0.25;
      if (abs(correlation) > 0.03) throw new Error(`The errors of two files correlate at ${correlation}.`);
    }
  }
}

/** Measures all of it; throws with the first figure that is wrong. */
export async function sound({ seed, ...counts }: SoundOptions): Promise<void> {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-sound-'));
  const random = new Random(seed);
  try {
    bands(counts.bands, random);
    await masters(counts.masters, folder, random);
    await dithers(counts.dithers, folder, random);
  } finally {
    rmSync(folder, { recursive: true });
  }
}
