import { Random } from '../core/signal/random';
import { bass, canvas, hat, kick, normalise, pad, pluck, room, snare, type Canvas } from '../demo/synthesiser';

const RATE = 44100;
const BEAT = 0.6;
const BARS = 5;
const SECONDS = BARS * 4 * BEAT;

/** Twelve seconds of music that grow from bar to bar, made in a second: something for every meter to move. */
export function sketch(seed: number): Canvas {
  const music = canvas(SECONDS, RATE);
  const random = new Random(seed);
  const root = 36 + (seed % 5);
  for (let bar = 0; bar < BARS; bar++) {
    const start = 4 * BEAT * bar;
    const level = 0.4 + 0.12 * bar;
    pad(music, { at: start, seconds: 4 * BEAT, note: root + 24, level: 0.2, pan: 0 });
    for (let beat = 0; beat < 4; beat++) {
      const at = start + beat * BEAT;
      bass(music, { at, seconds: BEAT, note: root, level: 0.3 * level, pan: 0 });
      if (beat % 2 === 0) kick(music, at, level);
      else if (bar > 0) snare(music, at, 0.6 * level, random);
      hat(music, at + BEAT / 2, 0.25 * level, 0.3, random);
      const pan = beat % 2 === 0 ? -0.6 : 0.6;
      pluck(music, { at, seconds: 2 * BEAT, note: root + 36 + 3 * beat, level: 0.2, pan }, random);
    }
  }
  room(music, 0.12, 1.2);
  normalise(music, 0.8);
  return music;
}
