import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { findings, type Finding, type SourceFacts } from '@/core/measure/findings';
import { IntakeMeter } from '@/core/measure/intake';
import { Random } from '@/core/signal/random';
import * as play from '@/demo/synthesiser';
import { AT_LENGTH } from './at-length';
import { ffmpeg } from './ffmpeg';
import { writeWave } from './wave';

// Taken out once: in a test's sandbox, looking Math up costs more than the function.
const { PI, exp, max, min, round, sin } = Math;

const MIXTURES = 32;
const SECONDS = 8;
/** Seconds in which the last notes die away. */
const ENDING = 4;
/** Of each eight mixtures six are at the rates of most sessions, two at higher ones. */
const RATES = [44100, 48000, 44100, 48000, 44100, 48000, 96000, 88200];

interface Clip extends play.Canvas {
  float?: boolean;
}

/** Something like a mix: other instruments, another tempo and key, more or less air and noise for each number. */
function mixture(number: number): Clip {
  const random = new Random(1000 + number);
  const sampleRate = RATES[number % RATES.length];
  const to = play.canvas(SECONDS, sampleRate);
  const beat = 60 / (72 + round(random.uniform() * 68));
  const root = 36 + (number % 12);
  const chance = (share: number) => random.uniform() < share;
  const [drums, cymbals, low, chords, strings, bowed, sung] = [0.75, 0.7, 0.85, 0.7, 0.6, 0.5, 0.4].map(chance);
  for (let i = 0; i * beat < SECONDS - ENDING; i++) {
    const at = i * beat;
    const step = [0, 5, 7, 3][(i >> 2) % 4];
    if (drums && i % 2 === 0) play.kick(to, at, 0.8);
    if (drums && i % 2 === 1) play.snare(to, at, 0.5, random);
    if (cymbals) for (const half of [0, 0.5]) play.hat(to, at + half * beat, 0.25, 0.3, random);
    if (low || !chords) play.bass(to, { at, seconds: beat * 0.95, note: root + step, level: 0.4, pan: 0 });
    if (chords && i % 4 === 0)
      for (const third of [12, 16, 19])
        play.pad(to, {
          at,
          seconds: min(4 * beat, SECONDS - ENDING + 0.5 - at),
          note: root + step + third,
          level: 0.3,
          pan: 0,
        });
    if (strings)
      play.pluck(to, { at: at + beat / 2, seconds: beat, note: root + step + 24, level: 0.3, pan: 0.4 }, random);
    if (bowed && i % 8 === 0)
      play.bow(to, {
        at,
        seconds: min(6 * beat, SECONDS - ENDING + 0.5 - at),
        note: root + step + 19,
        level: 0.25,
        pan: -0.4,
      });
    if (sung && i % 8 === 4)
      play.voice(to, {
        at,
        seconds: min(4 * beat, SECONDS - ENDING + 0.5 - at),
        note: root + step + 24,
        level: 0.3,
        pan: 0,
      });
  }
  play.room(to, 0.2 + 0.3 * random.uniform(), 0.8);
  // What microphones and preamplifiers leave, between −70 and −110 dBFS, and a treble that falls off as theirs does.
  const hiss = 10 ** (-(70 + 40 * random.uniform()) / 20);
  for (const channel of [to.left, to.right]) {
    let smooth = 0;
    const corner = 1 - exp((-2 * PI * (14_000 + 14_000 * random.uniform())) / sampleRate);
    for (let i = 0; i < channel.length; i++) {
      smooth += min(1, corner) * (channel[i] + 3 * hiss * random.triangular() - smooth);
      channel[i] = smooth;
    }
  }
  play.normalise(to, 10 ** (-(4.5 + random.uniform()) / 20));
  return to;
}

/** The clip after a trip through ffmpeg: what is made of it, and at which rate it comes back. */
function through(clip: Clip, steps: (from: string, folder: string) => string, sampleRate = clip.sampleRate): Clip {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-intake-'));
  try {
    const from = path.join(folder, 'mix.wav');
    const [left, right] = [Float64Array.from(clip.left), Float64Array.from(clip.right)];
    writeWave(from, { left, right }, clip.sampleRate);
    const raw = path.join(folder, 'back.f32');
    // At 24 bits, as a file would be.
    const args = ['-i', steps(from, folder), '-af', 'aformat=sample_fmts=s32', '-ar', String(sampleRate)];
    ffmpeg([...args, '-f', 'f32le', '-c:a', 'pcm_f32le', raw]);
    const bytes = readFileSync(raw);
    const samples = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4);
    const channel = (which: 0 | 1) => {
      const alone = new Float32Array(samples.length / 2);
      for (let i = 0; i < alone.length; i++) alone[i] = samples[2 * i + which];
      return alone;
    };
    return { left: channel(0), right: channel(1), sampleRate };
  } finally {
    rmSync(folder, { recursive: true });
  }
}

const each = (clip: Clip, change: (x: number, i: number) => number): Clip => ({
  ...clip,
  left: clip.left.map(change),
  right: clip.right.map(change),
});
const padded = (clip: Clip, head: number, tail: number): Clip => {
  const channel = (x: Float32Array) => {
    const longer = new Float32Array(x.length + round((head + tail) * clip.sampleRate));
    longer.set(x, round(head * clip.sampleRate));
    return longer;
  };
  return { ...clip, left: channel(clip.left), right: channel(clip.right) };
};

interface Fault {
  name: string;
  /** How it is planted, in words. */
  how: string;
  /** Plants it in a mixture; null where that mixture can't have it. */
  plant(clip: Clip, number: number): Clip | null;
  /** Whether the findings say it. */
  found(findings: readonly Finding[]): boolean;
}

const titled =
  (...titles: string[]) =>
  (found: readonly Finding[]) =>
    found.some(({ title }) => titles.includes(title));
const ENCODERS = [
  ['mp3', ['-c:a', 'libmp3lame', '-b:a', '128k']],
  ['m4a', ['-c:a', 'aac', '-b:a', '128k']],
  ['ogg', ['-c:a', 'libvorbis', '-b:a', '112k']],
] as const;

const FAULTS: readonly Fault[] = [
  {
    name: 'Mains hum',
    how: '50 or 60 Hz at −60 dBFS, alone or with two multiples',
    plant: (clip, number) => {
      const mains = number % 2 ? 60 : 50;
      const tones = number % 4 < 2 ? [1] : [1, 0.5, 0.4];
      return each(clip, (x, i) =>
        tones.reduce((sum, size, h) => sum + 0.001 * size * sin((2 * PI * mains * (h + 1) * i) / clip.sampleRate), x),
      );
    },
    found: titled('Mains hum'),
  },
  {
    name: 'Silence',
    how: '1.2 s before the first sound and 3 s after the last',
    plant: (clip) => padded(clip, 1.2, 3),
    found: titled('Silence at the head', 'Silence at the tail'),
  },
  {
    name: 'Upsampled',
    how: 'from 44.1 or 48 kHz to 96 or 192 kHz, by two resamplers',
    plant: (clip, number) => {
      if (clip.sampleRate > 48000) return null;
      const rate = number % 4 === 3 ? 192000 : 96000;
      const resampler = number % 3 === 0 ? 'swr' : 'soxr';
      return through(
        clip,
        (from, folder) => {
          const to = path.join(folder, 'up.wav');
          ffmpeg(['-i', from, '-af', `aresample=${rate}:resampler=${resampler}`, '-c:a', 'pcm_s24le', to]);
          return to;
        },
        rate,
      );
    },
    found: titled('The spectrum stops early'),
  },
  {
    name: 'Lossy source',
    how: 'MP3, AAC or Vorbis at about 128 kbit/s and back',
    plant: (clip, number) => {
      if (clip.sampleRate > 48000) return null;
      const [suffix, codec] = ENCODERS[number % ENCODERS.length];
      return through(clip, (from, folder) => {
        const to = path.join(folder, `lossy.${suffix}`);
        ffmpeg(['-i', from, ...codec, to]);
        return to;
      });
    },
    found: titled('The spectrum stops early'),
  },
  {
    name: 'Clipping',
    how: 'raised by 8 dB and cut off at −0.2 dBFS',
    plant: (clip) => each(clip, (x) => max(-0.977, min(0.977, 2.5 * x))),
    found: titled('Clipped'),
  },
  {
    name: 'Polarity',
    how: 'the right channel inverted',
    plant: (clip) => ({ ...clip, right: clip.right.map((x) => -x) }),
    found: titled('A channel is inverted'),
  },
  {
    name: 'Trim advice',
    how: 'a float file 8 to 18 dB louder; right when the advice leaves 4 to 5 dB of room',
    plant: (clip, number) => ({ ...each(clip, (x) => x * 10 ** ((8 + (number % 11)) / 20)), float: true }),
    found: (all) => {
      const over = all.find(({ title }) => title === 'Overs between samples');
      const figure = (text: string | undefined, pattern: RegExp) =>
        Number(pattern.exec(text ?? '')?.[1].replace('−', '-') ?? NaN);
      const left = figure(over?.sentence, /true peak is (\S+) dBTP/) + figure(over?.advice, /trim of (\S+) dB/);
      return left <= -4 && left > -5.1;
    },
  },
];

/** What intake finds in a clip. */
function foundIn({ left, right, sampleRate, float = false }: Clip): Finding[] {
  const meter = new IntakeMeter(sampleRate, left.length);
  const chunk = new Float32Array(8192);
  // On the grid of a 24-bit file, unless it is a float file.
  const held = (x: number) => (float ? x : round(max(-1, min(1, x)) * 8388607) / 8388608);
  for (let at = 0; at < left.length; at += 4096) {
    const frames = min(4096, left.length - at);
    for (let i = 0; i < frames; i++) {
      chunk[2 * i] = held(left[at + i]);
      chunk[2 * i + 1] = held(right[at + i]);
    }
    meter.add(chunk.subarray(0, 2 * frames));
  }
  const source: SourceFacts = { container: 'WAV', channels: 2, bits: float ? 32 : 24, float, sampleRate };
  return findings(source, meter.result());
}

export interface FaultRow {
  name: string;
  how: string;
  planted: number;
  detected: number;
  clean: number;
  alarms: number;
}

/** Each fault planted in each mixture that can have it, and the mixtures as they are. */
function tryCorpus(): FaultRow[] {
  const rows = FAULTS.map(({ name, how }): FaultRow => ({ name, how, planted: 0, detected: 0, clean: 0, alarms: 0 }));
  // In short, every fifth: of each rate one at least.
  for (let number = 0; number < MIXTURES; number += AT_LENGTH ? 1 : 5) {
    const clip = mixture(number);
    const clean = foundIn(clip);
    FAULTS.forEach((fault, i) => {
      const row = rows[i];
      row.clean++;
      if (fault.found(clean)) row.alarms++;
      const faulty = fault.plant(clip, number);
      if (!faulty) return;
      row.planted++;
      if (fault.found(foundIn(faulty))) row.detected++;
    });
  }
  return rows;
}

/** The rows as a table of the documentation, one text each. */
export function corpusTable(rows: readonly FaultRow[]): string[] {
  return rows.map(
    ({ name, how, planted, detected, clean, alarms }) =>
      `| ${name} | ${how} | ${detected} of ${planted} | ${alarms} of ${clean} |`,
  );
}

// By itself it prints the rows: outside a test's sandbox it takes a quarter of the time.
if (process.argv[1]?.endsWith('intake-corpus.ts')) console.log(JSON.stringify(tryCorpus()));
