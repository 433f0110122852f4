import type { Random } from '../core/signal/random';

// Taken out once: in a test's sandbox, looking Math up costs more than the function.
const { PI, abs, cos, exp, floor, max, min, round, sin, sqrt } = Math;

/** Stereo signal under construction, planar. */
export interface Canvas {
  left: Float32Array;
  right: Float32Array;
  /** Hz */
  sampleRate: number;
}

export function canvas(seconds: number, sampleRate: number): Canvas {
  const frames = round(seconds * sampleRate);
  return { left: new Float32Array(frames), right: new Float32Array(frames), sampleRate };
}

/** Frequency in Hz of a MIDI note number. */
function pitch(note: number): number {
  return 440 * 2 ** ((note - 69) / 12);
}

export interface Note {
  /** Seconds from the beginning. */
  at: number;
  seconds: number;
  /** MIDI note number. */
  note: number;
  /** Linear amplitude. */
  level: number;
  /** −1 left … 1 right. */
  pan: number;
}

type Voice = (time: number, frame: number) => number;

/** Adds a mono voice to the canvas with a constant-power pan. */
function place(to: Canvas, at: number, seconds: number, level: number, pan: number, voice: Voice): void {
  const start = round(at * to.sampleRate);
  const frames = min(round(seconds * to.sampleRate), to.left.length - start);
  const angle = ((pan + 1) * PI) / 4;
  const left = level * cos(angle);
  const right = level * sin(angle);
  for (let i = 0; i < frames; i++) {
    const x = voice(i / to.sampleRate, i);
    to.left[start + i] += x * left;
    to.right[start + i] += x * right;
  }
}

/** Rises over `attack` seconds and falls over the last `release` seconds. */
function envelope(time: number, seconds: number, attack: number, release: number): number {
  return min(1, time / attack) * min(1, max(0, (seconds - time) / release));
}

/** A drum skin: a falling tone and a click. */
export function kick(to: Canvas, at: number, level: number): void {
  place(
    to,
    at,
    0.4,
    level,
    0,
    (t) => sin(2 * PI * (48 * t + 4.2 * (1 - exp(-t * 34)))) * exp(-t * 9) + 0.25 * sin(9000 * t) * exp(-t * 300),
  );
}

/** A drum skin with wires: a tone and noise. */
export function snare(to: Canvas, at: number, level: number, random: Random): void {
  let last = 0;
  place(to, at, 0.3, level, 0.05, (t) => {
    const noise = random.triangular();
    const bright = noise - 0.6 * last;
    last = noise;
    return 0.6 * sin(2 * PI * 190 * t) * exp(-t * 24) + 0.5 * bright * exp(-t * 16);
  });
}

/** Cymbals: noise above a few kilohertz. */
export function hat(to: Canvas, at: number, level: number, pan: number, random: Random): void {
  let a = 0;
  let b = 0;
  place(to, at, 0.09, level, pan, (t) => {
    const noise = random.triangular();
    const difference = noise - 2 * a + b;
    b = a;
    a = noise;
    return 0.5 * difference * exp(-t * 60);
  });
}

/** A low string: a few harmonics, each falling faster than the one below. */
export function bass(to: Canvas, { at, seconds, note, level, pan }: Note): void {
  const f = pitch(note);
  place(to, at, seconds, level, pan, (t) => {
    let x = 0;
    for (let h = 1; h <= 6; h++) x += (sin(2 * PI * f * h * t) / h) * exp(-t * h * 0.9);
    return x * envelope(t, seconds, 0.008, 0.06);
  });
}

/** One cycle of a tone with these harmonics, read by phase in cycles. */
function wavetable(amplitudes: number[], phase = 0): (cycles: number) => number {
  const size = 4096;
  const table = Float64Array.from({ length: size + 1 }, (_, i) =>
    amplitudes.reduce((sum, amplitude, h) => sum + amplitude * sin((2 * PI * (h + 1) * i) / size + (h + 1) * phase), 0),
  );
  return (cycles) => {
    const at = (cycles - floor(cycles)) * size;
    const i = floor(at);
    return table[i] + (table[i + 1] - table[i]) * (at - i);
  };
}

const PAD_HARMONICS = Array.from({ length: 8 }, (_, i) => 1 / (i + 1) ** 1.4);

/** A wide slow chord tone: three detuned tones on each channel. */
export function pad(to: Canvas, { at, seconds, note, level }: Note): void {
  const f = pitch(note);
  for (const [pan, detune] of [
    [-0.8, 0.9985],
    [0, 1],
    [0.8, 1.0016],
  ]) {
    const tone = wavetable(PAD_HARMONICS, pan);
    place(
      to,
      at,
      seconds,
      level / 3,
      pan,
      (t) => tone(f * detune * t) * envelope(t, seconds, 0.9, 1.2) * (0.85 + 0.15 * sin(2 * PI * 0.23 * t + pan)),
    );
  }
}

/**
 * A plucked string (K. Karplus, A. Strong, "Digital Synthesis of Plucked-String and Drum Timbres", 1983; from memory).
 */
export function pluck(to: Canvas, { at, seconds, note, level, pan }: Note, random: Random): void {
  const period = max(2, round(to.sampleRate / pitch(note)));
  const string = Float64Array.from({ length: period }, () => random.triangular());
  let i = 0;
  place(to, at, seconds, level, pan, (t) => {
    const next = (i + 1) % period;
    const x = string[i];
    string[i] = 0.4985 * (string[i] + string[next]);
    i = next;
    return x * min(1, (seconds - t) / 0.05);
  });
}

/** A bowed string: a sawtooth with vibrato through a gentle low-pass. */
export function bow(to: Canvas, { at, seconds, note, level, pan }: Note): void {
  const f = pitch(note);
  let phase = 0;
  let smooth = 0;
  place(to, at, seconds, level, pan, (t) => {
    phase += (f * (1 + 0.004 * min(1, t) * sin(2 * PI * 5.3 * t))) / to.sampleRate;
    phase -= floor(phase);
    smooth += 0.16 * (2 * phase - 1 - smooth);
    return smooth * envelope(t, seconds, 0.25, 0.35);
  });
}

const FORMANTS = [
  [700, 90, 1],
  [1150, 110, 0.5],
  [2700, 170, 0.18],
] as const;

/** A wordless voice: harmonics under three formants, with vibrato. */
export function voice(to: Canvas, { at, seconds, note, level, pan }: Note): void {
  const f = pitch(note);
  const harmonics = Array.from({ length: floor(5000 / f) }, (_, i) => {
    const frequency = f * (i + 1);
    const weight = FORMANTS.reduce(
      (sum, [centre, width, gain]) => sum + gain / (1 + ((frequency - centre) / width) ** 2),
      0.02,
    );
    return weight / sqrt(i + 1);
  });
  const tone = wavetable(harmonics);
  let cycles = 0;
  place(to, at, seconds, level, pan, (t) => {
    cycles += (f * (1 + 0.006 * min(1, t) * sin(2 * PI * 5.1 * t))) / to.sampleRate;
    return tone(cycles) * envelope(t, seconds, 0.3, 0.5);
  });
}

/** A room: four feedback delays with a matrix that keeps their energy, added to the canvas at `level`. */
export function room(to: Canvas, level: number, seconds: number): void {
  const lengths = [0.0297, 0.0371, 0.0411, 0.0437].map((s) => round(s * to.sampleRate));
  const lines = lengths.map((length) => new Float64Array(length));
  const decay = lengths.map((length) => 10 ** ((-3 * length) / to.sampleRate / seconds));
  const damped = new Float64Array(4);
  const outputs = new Float64Array(4);
  const positions = new Uint32Array(4);
  for (let i = 0; i < to.left.length; i++) {
    for (let k = 0; k < 4; k++) outputs[k] = lines[k][positions[k]];
    const half = (outputs[0] + outputs[1] + outputs[2] + outputs[3]) / 2;
    for (let k = 0; k < 4; k++) {
      damped[k] += 0.6 * ((outputs[k] - half) * decay[k] - damped[k]);
      lines[k][positions[k]] = (k % 2 === 0 ? to.left[i] : to.right[i]) * 0.5 + damped[k];
      if (++positions[k] === lengths[k]) positions[k] = 0;
    }
    to.left[i] += level * (outputs[0] + outputs[2]);
    to.right[i] += level * (outputs[1] + outputs[3]);
  }
}

/** A resonator that rings at one frequency, added to what excites it. */
export function ring(to: Canvas, frequencyHz: number, q: number, level: number): void {
  const w = (2 * PI * frequencyHz) / to.sampleRate;
  const radius = exp(-w / (2 * q));
  const feedback = [2 * radius * cos(w), -radius * radius];
  const gain = (1 - radius * radius) / 2;
  for (const channel of [to.left, to.right]) {
    let y1 = 0;
    let y2 = 0;
    let x1 = 0;
    let x2 = 0;
    for (let i = 0; i < channel.length; i++) {
      const x = channel[i];
      const y = gain * (x - x2) + feedback[0] * y1 + feedback[1] * y2;
      [x2, x1, y2, y1] = [x1, x, y1, y];
      channel[i] += level * y;
    }
  }
}

/** Takes the mean out of both channels and scales the canvas so that its highest sample has this linear level. */
export function normalise(to: Canvas, level: number): void {
  let peak = 0;
  for (const channel of [to.left, to.right]) {
    const mean = channel.reduce((sum, x) => sum + x, 0) / channel.length;
    for (let i = 0; i < channel.length; i++) {
      channel[i] -= mean;
      peak = max(peak, abs(channel[i]));
    }
  }
  for (const channel of [to.left, to.right]) for (let i = 0; i < channel.length; i++) channel[i] *= level / peak;
}

/** Cuts everything beyond a level off: a mix that already clips. */
export function hardClip(to: Canvas, level: number): void {
  for (const channel of [to.left, to.right])
    for (let i = 0; i < channel.length; i++) channel[i] = max(-level, min(level, channel[i]));
}

/** A deep tone with opposite polarity left and right: wide on loudspeakers, gone in mono. */
export function wideSub(to: Canvas, { at, seconds, note, level }: Note): void {
  const f = pitch(note);
  const tone: Voice = (t) => sin(2 * PI * f * t) * envelope(t, seconds, 0.05, 0.3);
  const apart = canvas(seconds, to.sampleRate);
  place(apart, 0, seconds, level, 0, tone);
  const start = round(at * to.sampleRate);
  for (let i = 0; i < apart.left.length && start + i < to.left.length; i++) {
    to.left[start + i] += apart.left[i];
    to.right[start + i] -= 0.85 * apart.right[i];
  }
}

/** Fades the canvas from one linear gain at its beginning to another at its end, evenly in decibels. */
export function swell(to: Canvas, from: number, until: number): void {
  const frames = to.left.length;
  for (const channel of [to.left, to.right])
    for (let i = 0; i < frames; i++) channel[i] *= from * (until / from) ** (i / frames);
}

/** The same with silence before it. */
export function late(from: Canvas, seconds: number): Canvas {
  const frames = round(seconds * from.sampleRate);
  const moved = canvas(from.left.length / from.sampleRate + seconds, from.sampleRate);
  moved.left.set(from.left.subarray(0, moved.left.length - frames), frames);
  moved.right.set(from.right.subarray(0, moved.right.length - frames), frames);
  return moved;
}
