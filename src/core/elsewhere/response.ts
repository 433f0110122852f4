import type { Biquad } from '../signal/biquad';
import { arithmetic } from '../signal/arithmetic';
import { butterworthQs } from '../signal/butterworth';
import { amplitude, powerDecibels } from '../signal/decibels';
import { Fft } from '../signal/fft';
import { kWeighting } from '../signal/k-weighting';
import { biquadMagnitude } from '../signal/biquad';
import { matched, matchedBell } from '../signal/matched';
import { bellPrototype, highPassPrototype, lowPassPrototype } from '../signal/prototype';
import { Random } from '../signal/random';
import type { Place } from './places';

/** Seconds after which even the tiled room has all but faded. */
export const RESPONSE_SECONDS = 0.36;
/** Share of the response at its end that fades out. */
const FADE_SHARE = 0.2;
const SEED = 411;
/** Above this nothing counts for the loudness, at any rate. */
const AUDIBLE_HZ = 20_000;

/**
 * How a place sounds: what reaches an ear from its own side, and from the opposite one. As loud as what is played: see
 * {@link placeResponse}.
 */
export interface PlaceResponse {
  same: Float64Array;
  opposite: Float64Array;
  /** Amplitude at which its loudspeaker gives way; null for one that does not. */
  givesWay: number | null;
}

function filtered(sections: readonly Biquad[], x: Float64Array): Float64Array {
  let y = x;
  for (const { b0, b1, b2, a1, a2 } of sections) {
    const input = y;
    y = new Float64Array(x.length);
    let s1 = 0;
    let s2 = 0;
    for (let i = 0; i < x.length; i++) {
      y[i] = b0 * input[i] + s1;
      s1 = b1 * input[i] - a1 * y[i] + s2;
      s2 = b2 * input[i] - a2 * y[i];
    }
  }
  return y;
}

function energy(x: Float64Array): number {
  return x.reduce((sum, value) => sum + value * value, 0);
}

/** Sections of what a place passes and where it rings. */
function sectionsOf({ highPass, lowPass, bells }: Place, sampleRate: number): Biquad[] {
  const radians = (hz: number) => (2 * Math.PI * hz) / sampleRate;
  return [
    ...(highPass ? butterworthQs(highPass.order).map((q) => matched(highPassPrototype(q), radians(highPass.hz))) : []),
    ...(lowPass ? butterworthQs(lowPass.order).map((q) => matched(lowPassPrototype(q), radians(lowPass.hz))) : []),
    ...bells.map(({ hz, gainDb, q }) => matchedBell(bellPrototype(gainDb, q), radians(hz), q)),
  ];
}

function dull(x: Float64Array, hz: number, sampleRate: number): Float64Array {
  return filtered([matched(lowPassPrototype(Math.SQRT1_2), (2 * Math.PI * hz) / sampleRate)], x);
}

function addLater(to: Float64Array, x: Float64Array, seconds: number, gain: number, sampleRate: number): void {
  const late = Math.round(seconds * sampleRate);
  for (let i = late; i < to.length; i++) to[i] += gain * x[i - late];
}

/** Noise that decays, of an energy of 1. */
function tailOf(
  { decaySeconds, fromSeconds, lowPassHz }: NonNullable<Place['tail']>,
  seed: number,
  frames: number,
  sampleRate: number,
): Float64Array {
  const { exp, log } = arithmetic();
  const random = new Random(seed);
  const from = Math.round(fromSeconds * sampleRate);
  const fall = exp((-3 * log(10)) / (decaySeconds * sampleRate));
  const noise = new Float64Array(frames);
  let gain = 1;
  for (let i = from; i < frames; i++) {
    noise[i] = random.triangular() * gain;
    gain *= fall;
  }
  const tail = dull(noise, lowPassHz, sampleRate);
  const scale = 1 / Math.sqrt(energy(tail));
  return tail.map((x) => x * scale);
}

/** Spectrum of a response, in the least power of two that holds it. */
function spectrumOf(x: Float64Array): { re: Float64Array; im: Float64Array; size: number } {
  const size = 2 ** Math.ceil(Math.log2(x.length));
  const re = new Float64Array(size);
  const im = new Float64Array(size);
  re.set(x);
  new Fft(size).transform(re, im);
  return { re, im, size };
}

/**
 * Gain in dB that gives music the loudness it had before it passed a response: K-weighted (ITU-R BS.1770) over a spectrum
 * that falls by 3 dB an octave, as pink noise does, half of it the same on both channels and half of it independent
 * (common practice, no source).
 */
export function loudnessGainDb(
  { same, opposite }: Pick<PlaceResponse, 'same' | 'opposite'>,
  sampleRate: number,
): number {
  const s = spectrumOf(same);
  const { size } = s;
  const o = spectrumOf(opposite);
  const { shelf, highPass } = kWeighting(sampleRate);
  let before = 0;
  let after = 0;
  for (let k = 1; k < size / 2 && (k * sampleRate) / size <= AUDIBLE_HZ; k++) {
    const radians = (2 * Math.PI * k) / size;
    const weight = (biquadMagnitude(shelf, radians) * biquadMagnitude(highPass, radians)) ** 2 / k;
    const alike = (s.re[k] + o.re[k]) ** 2 + (s.im[k] + o.im[k]) ** 2;
    const independent = s.re[k] ** 2 + s.im[k] ** 2 + o.re[k] ** 2 + o.im[k] ** 2;
    before += weight;
    after += (weight * (alike + independent)) / 2;
  }
  return -powerDecibels(after / before);
}

/**
 * The impulse response of a place at a sample rate in Hz, made from its description: the same numbers on every machine, and
 * as loud as what is played ({@link loudnessGainDb}). {@link RESPONSE_SECONDS} long.
 */
export function placeResponse(place: Place, sampleRate: number): PlaceResponse {
  const frames = Math.round(RESPONSE_SECONDS * sampleRate);
  const impulse = new Float64Array(frames);
  impulse[0] = 1;
  const direct = filtered(sectionsOf(place, sampleRate), impulse);
  const channels = [direct.slice(), new Float64Array(frames)];
  const { crossing, reflections, tail, mono } = place;
  if (crossing)
    addLater(
      channels[1],
      dull(direct, crossing.lowPassHz, sampleRate),
      crossing.seconds,
      amplitude(crossing.gainDb),
      sampleRate,
    );
  reflections.forEach(({ seconds, gainDb }, i) =>
    addLater(channels[i % 2], direct, seconds, amplitude(gainDb), sampleRate),
  );
  if (tail) {
    const level = amplitude(tail.energyDb) * Math.sqrt(energy(direct));
    channels.forEach((channel, i) =>
      addLater(channel, tailOf(tail, SEED + i, frames, sampleRate), 0, level, sampleRate),
    );
  }
  const fade = Math.round(FADE_SHARE * frames);
  const { cos } = arithmetic();
  for (const channel of channels)
    for (let i = 0; i < fade; i++) channel[frames - 1 - i] *= 0.5 - 0.5 * cos((Math.PI * i) / fade);
  const [own, other] = channels;
  const half = own.map((x, i) => (x + other[i]) / 2);
  const [same, opposite] = mono ? [half, half] : [own, other];
  const gain = amplitude(loudnessGainDb({ same, opposite }, sampleRate));
  return {
    same: same.map((x) => x * gain),
    opposite: opposite.map((x) => x * gain),
    givesWay: place.givesWayDbfs === null ? null : amplitude(place.givesWayDbfs),
  };
}

/** Half the width in octaves over which a curve is averaged: the noise of a tail has no other shape than its mean. */
const HALF_WIDTH_OCTAVES = 1 / 12;

/**
 * Magnitude in dB of a place around frequencies in Hz, for a sound that is alike on both channels: mean power over a sixth
 * of an octave.
 */
export function placeCurve(
  { same, opposite }: PlaceResponse,
  frequenciesHz: readonly number[],
  sampleRate: number,
): number[] {
  const { re, im, size } = spectrumOf(same.map((x, i) => x + opposite[i]));
  const edge = 2 ** HALF_WIDTH_OCTAVES;
  return frequenciesHz.map((hz) => {
    const bin = (frequency: number) => Math.round((frequency * size) / sampleRate);
    const [from, to] = [bin(hz / edge), bin(hz * edge)];
    let power = 0;
    for (let k = from; k <= to; k++) power += re[k] ** 2 + im[k] ** 2;
    return powerDecibels(power / (to - from + 1));
  });
}
