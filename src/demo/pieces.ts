import { Random } from '../core/signal/random';
import {
  bass,
  bow,
  canvas,
  hardClip,
  hat,
  kick,
  late,
  normalise,
  pad,
  pluck,
  ring,
  room,
  snare,
  swell,
  voice,
  wideSub,
  type Canvas,
} from './synthesiser';

/** One piece of the planetarium's music, with the fault planted in it. */
export interface Piece {
  title: string;
  make(): Canvas;
  /** A second mix, without the fault. */
  corrected?(): Canvas;
  /** Rate in Hz that the file is converted to; the canvas's own when missing. */
  fileRate?: number;
}

const RATE = 44100;
const SECONDS_PER_BEAT = 60 / 84;
const BAR = 4 * SECONDS_PER_BEAT;
const BARS = 16;
const SECONDS = BARS * BAR + 3;

/** Roots and triads of the progression, one for every two bars (MIDI note numbers). */
const CHORDS = [
  [38, 62, 65, 69],
  [34, 58, 62, 65],
  [41, 60, 65, 69],
  [36, 60, 64, 67],
];

/** How full the arrangement is in each bar, 0 … 1. */
function fullness(bar: number): number {
  return bar < 4 ? 0.55 : bar < 8 ? 0.8 : bar < 14 ? 1 : 0.5;
}

function drums(to: Canvas, random: Random, level: number): void {
  for (let bar = 2; bar < BARS; bar++) {
    const start = bar * BAR;
    const full = fullness(bar);
    for (const beat of [0, 1.5, 2]) kick(to, start + beat * SECONDS_PER_BEAT, level * 0.95 * full);
    for (const beat of [1, 3]) if (bar >= 4) snare(to, start + beat * SECONDS_PER_BEAT, level * 0.6 * full, random);
    for (let eighth = 0; eighth < 8; eighth++) {
      hat(
        to,
        start + (eighth * SECONDS_PER_BEAT) / 2,
        level * (eighth % 2 ? 0.1 : 0.16) * full,
        eighth % 2 ? 0.5 : 0.3,
        random,
      );
    }
  }
}

/** Chords, bass and plucked strings; `shift` in semitones, `bassLevel` linear. */
function harmony(to: Canvas, random: Random, plucks: Canvas, shift = 0, bassLevel = 0.42): void {
  for (let bar = 0; bar < BARS; bar++) {
    const [root, ...triad] = CHORDS[Math.floor(bar / 2) % CHORDS.length].map((note) => note + shift);
    const start = bar * BAR;
    const full = fullness(bar);
    if (bar % 2 === 0) for (const note of triad) pad(to, { at: start, seconds: 2 * BAR, note, level: 0.26, pan: 0 });
    for (const beat of [0, 1.5, 3])
      bass(to, { at: start + beat * SECONDS_PER_BEAT, seconds: 0.9, note: root, level: bassLevel * full, pan: 0 });
    for (let eighth = 0; eighth < 8; eighth++) {
      const note = triad[(eighth * 2 + bar) % 3] + (eighth % 4 === 3 ? 12 : 0) + 12;
      const pan = eighth % 2 ? 0.45 : -0.45;
      pluck(
        plucks,
        { at: start + (eighth * SECONDS_PER_BEAT) / 2, seconds: 1.2, note, level: 0.4 * full, pan },
        random,
      );
    }
  }
}

function melody(to: Canvas, shift = 0): void {
  const line = [
    [6, 74, 4],
    [8, 77, 3],
    [8.75, 76, 3],
    [10, 72, 5],
    [12, 74, 4],
    [13, 69, 6],
  ];
  for (const [bar, note, beats] of line) {
    voice(to, { at: bar * BAR, seconds: beats * SECONDS_PER_BEAT, note: note + shift, level: 0.22, pan: -0.1 });
    bow(to, { at: bar * BAR, seconds: beats * SECONDS_PER_BEAT, note: note + shift - 12, level: 0.28, pan: 0.35 });
  }
}

function add(to: Canvas, from: Canvas): void {
  for (let i = 0; i < to.left.length; i++) {
    to.left[i] += from.left[i];
    to.right[i] += from.right[i];
  }
}

/** Strings that ring near 3.4 kHz: the fault of the first piece. */
function perihelion(): Canvas {
  const random = new Random(11);
  const music = canvas(SECONDS, RATE);
  const plucks = canvas(SECONDS, RATE);
  harmony(music, random, plucks);
  ring(plucks, 3400, 30, 9);
  add(music, plucks);
  drums(music, random, 0.7);
  melody(music);
  room(music, 0.16, 1.8);
  normalise(music, 0.6);
  return music;
}

/** The drums come first and loud. */
function debris(): Canvas {
  const random = new Random(23);
  const music = canvas(SECONDS, RATE);
  const plucks = canvas(SECONDS, RATE);
  harmony(music, random, plucks);
  add(music, plucks);
  drums(music, random, 1.15);
  melody(music);
  room(music, 0.1, 1.1);
  return music;
}

/** A mix that was driven into a clipper: clipped runs, and overs between the samples. */
function debrisField(): Canvas {
  const music = debris();
  normalise(music, 1.9);
  hardClip(music, 0.985);
  return music;
}

/** The same without its clipper, exported with a little more silence at its head. */
function debrisFieldCorrected(): Canvas {
  const music = debris();
  normalise(music, 0.65);
  return late(music, 0.037);
}

/** Deep tones with opposite polarity left and right: they disappear in mono. */
function undertow(): Canvas {
  const random = new Random(31);
  const music = canvas(SECONDS, RATE);
  const plucks = canvas(SECONDS, RATE);
  harmony(music, random, plucks, -3, 0.05);
  add(music, plucks);
  drums(music, random, 0.3);
  melody(music, -3);
  room(music, 0.12, 1.4);
  for (let bar = 0; bar < BARS; bar++) {
    const root = CHORDS[Math.floor(bar / 2) % CHORDS.length][0] - 3;
    wideSub(music, { at: bar * BAR, seconds: BAR, note: root, level: 0.4 * fullness(bar), pan: 0 });
  }
  normalise(music, 0.65);
  return music;
}

/** Begins at a whisper and ends loud: far more range than a living room has. */
function longDusk(): Canvas {
  const music = canvas(SECONDS, RATE);
  for (let bar = 0; bar < BARS; bar += 2) {
    const [root, ...triad] = CHORDS[Math.floor(bar / 2) % CHORDS.length].map((note) => note + 2);
    for (const note of triad) pad(music, { at: bar * BAR, seconds: 2 * BAR, note, level: 0.3, pan: 0 });
    bow(music, { at: bar * BAR, seconds: 2 * BAR, note: root + 12, level: 0.35, pan: 0.2 });
  }
  melody(music, 2);
  drums(music, new Random(41), 0.5);
  room(music, 0.25, 2.6);
  swell(music, 0.02, 1);
  normalise(music, 0.9);
  return music;
}

/** Made at 44.1 kHz, handed over as a file of 96 kHz. */
function zodiacalLight(): Canvas {
  const random = new Random(53);
  const music = canvas(SECONDS, RATE);
  const plucks = canvas(SECONDS, RATE);
  harmony(music, random, plucks, 5);
  add(music, plucks);
  drums(music, random, 0.6);
  melody(music, 5);
  room(music, 0.14, 1.6);
  normalise(music, 0.62);
  return music;
}

export const PIECES: readonly Piece[] = [
  { title: 'Perihelion', make: perihelion },
  { title: 'Debris Field', make: debrisField, corrected: debrisFieldCorrected },
  { title: 'Undertow', make: undertow },
  { title: 'Long Dusk', make: longDusk },
  { title: 'Zodiacal Light', make: zodiacalLight, fileRate: 96000 },
];
