import { IntakeMeter } from '@/core/measure/intake';
import { intakeReport } from '@/core/measure/intake-report';
import { RECORDS_DB } from '@/core/draft/balance-curve';
import { THIRD_OCTAVES_HZ } from '@/core/measure/balance';
import { noise } from './signals';

// Taken out once: looking Math up in a test's sandbox costs many times what the function does.
const { PI, exp, round, sin } = Math;

/** What is wrong with a programme. */
export interface Faults {
  /** dB more around 220 Hz. */
  boxyDb?: number;
  /** Degrees by which the bass differs in phase between the two channels. */
  bassPhase?: number;
  /** Sibilants as loud as all the rest, one in two seconds. */
  sibilants?: boolean;
  /** Strikes of bass against all the rest. */
  boomy?: boolean;
  /** dB by which the first half is quieter than the second. */
  quietStartDb?: number;
}

const BAR_SECONDS = 2;

/** A programme with the balance of records on average and none of the faults but those that are asked for; planar, quiet. */
export function programme(seconds: number, sampleRate: number, faults: Faults = {}) {
  const frames = BAR_SECONDS * sampleRate;
  const { boxyDb = 0, bassPhase = 0, sibilants = false, boomy = false, quietStartDb = 0 } = faults;
  const hiss = noise(frames, 1, 7);
  const tones = THIRD_OCTAVES_HZ.map((hz, i) => {
    const boxy = hz > 120 && hz < 420 ? boxyDb : 0;
    // Whole cycles in a bar.
    return { hz: round(hz * BAR_SECONDS) / BAR_SECONDS, amplitude: 10 ** ((RECORDS_DB[i] + boxy) / 20), phase: i * i };
  });
  const channel = (right: boolean) => {
    const bar = new Float64Array(frames);
    for (const { hz, amplitude, phase } of tones) {
      const turned = right ? (hz < 130 ? (PI * bassPhase) / 180 : 1) : 0;
      for (let i = 0; i < frames; i++)
        bar[i] += 0.03 * amplitude * sin((2 * PI * hz * i) / sampleRate + phase + turned);
    }
    let before = 0;
    for (let i = 0; i < frames; i++) {
      const t = i / sampleRate;
      bar[i] *= 0.8 + 0.6 * exp(-10 * (t % 0.5));
      if (boomy && t % 1 < 0.25) bar[i] += 0.5 * sin(2 * PI * 60 * t) * exp(-4 * (t % 1));
      // A difference of samples leaves what is high.
      if (sibilants && t > 1.2 && t < 1.32) bar[i] += 0.15 * (hiss[i] - before);
      before = hiss[i];
    }
    return bar;
  };
  const [left, right] = [channel(false), channel(true)];
  const quiet = 10 ** (-quietStartDb / 20);
  const total = round(seconds * sampleRate);
  const long = (bar: Float64Array) =>
    Float32Array.from({ length: total }, (_, i) => bar[i % frames] * (i < total / 2 ? quiet : 1));
  return { left: long(left), right: long(right), sampleRate };
}

/** What intake finds in planar audio. */
export function reportOf({ left, right, sampleRate }: ReturnType<typeof programme>) {
  const meter = new IntakeMeter(sampleRate, left.length);
  const chunk = new Float32Array(2 * 4096);
  for (let at = 0; at < left.length; at += 4096) {
    const frames = Math.min(4096, left.length - at);
    for (let i = 0; i < frames; i++) {
      chunk[2 * i] = left[at + i];
      chunk[2 * i + 1] = right[at + i];
    }
    meter.add(chunk.subarray(0, 2 * frames));
  }
  return intakeReport({ container: 'WAV', channels: 2, bits: 24, float: false, sampleRate }, meter.result());
}
