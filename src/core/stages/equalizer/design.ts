import { arithmetic } from '../../signal/arithmetic';
import { biquadMagnitude, inverse, squaredMagnitude, type Biquad } from '../../signal/biquad';
import { butterworthQs } from '../../signal/butterworth';
import { decibels } from '../../signal/decibels';
import { mappedSections } from '../../signal/frequency-map';
import {
  matched,
  matchedBell,
  matchedFirstHighPass,
  matchedFirstLowPass,
  matchedTilt,
  notch,
} from '../../signal/matched';
import {
  bandPassPrototype,
  bellPrototype,
  FIRST_HIGH_PASS,
  FIRST_LOW_PASS,
  highPassPrototype,
  highShelfPrototype,
  lowPassPrototype,
  lowShelfPrototype,
  notchPrototype,
  prototypeMagnitude,
  tiltPrototype,
  type Prototype,
} from '../../signal/prototype';
import { FLAT_PASS_Q, type EqualizerBand } from './settings';

/** Gain below this does nothing, and would leave the design undetermined. */
const NO_GAIN_DB = 0.0005;

/** Bands above this share of the Nyquist frequency are designed as if they were there. */
const HIGHEST = 0.98 * Math.PI;

/**
 * Sections that the steepest band has: four pairs of poles, each of three sections where a simple design does not do.
 */
export const MOST_SECTIONS = 12;

/** The range in which a curve has to be right: to 20 kHz, or as far at low rates as 20 kHz is at 44.1 kHz. */
const LOWEST_HZ = 20;
const HIGHEST_HZ = 20_000;
const HIGHEST_SHARE = HIGHEST_HZ / 44_100;
const LOOKS = 40;
/** Places around the corner or centre at which a curve is checked, as ratios, and as shares of the bandwidth. */
const AROUND = [0.6, 0.75, 0.9, 0.97, 1.03, 1.1, 1.3, 1.6];
const EDGES = [-2, -1, -0.5, -0.2, 0.2, 0.5, 1, 2];
/** 0.05 dB either way, as a ratio of squared magnitudes: what simple designs may be off to be kept. */
const KEPT = 10 ** (0.05 / 10);
/** Squared magnitude of −120 dB: anything below is as good as silent, and may be off. */
const SILENT = 1e-12;

/** sin²(ω/2) and Hz of the points checked at a sample rate. */
const GRIDS = new Map<number, { hz: number; x: number }[]>();

function look(hz: number, sampleRate: number): { hz: number; x: number } {
  return { hz, x: arithmetic().sin((Math.PI * hz) / sampleRate) ** 2 };
}

function grid(sampleRate: number): { hz: number; x: number }[] {
  const known = GRIDS.get(sampleRate);
  if (known) return known;
  const top = Math.min(HIGHEST_HZ, HIGHEST_SHARE * sampleRate);
  const { exp, log } = arithmetic();
  const made = Array.from({ length: LOOKS }, (_, i) =>
    look(LOWEST_HZ * exp((log(top / LOWEST_HZ) * i) / (LOOKS - 1)), sampleRate),
  );
  GRIDS.set(sampleRate, made);
  return made;
}

/** Whether a design follows its prototypes closely enough over the whole range; what is below `silent` may be off. */
function follows({ sections, prototypes, q, bends }: Design, frequencyHz: number, sampleRate: number, silent: number) {
  const everywhere = grid(sampleRate);
  const top = everywhere[LOOKS - 1].hz;
  const near = bends
    .flatMap((bend) => [...AROUND, ...EDGES.map((share) => 1 + share / (2 * q))].map((ratio) => bend * ratio))
    .map((ratio) => ratio * frequencyHz)
    .filter((hz) => hz > LOWEST_HZ && hz < top)
    .map((hz) => look(hz, sampleRate));
  return [...everywhere, ...near].every(({ hz, x }) => {
    const wanted =
      prototypes.reduce((gain, each) => gain * prototypeMagnitude(each, hz / frequencyHz) ** 2, 1) + silent;
    const got = sections.reduce((gain, section) => gain * squaredMagnitude(section, x), 1) + silent;
    return got <= wanted * KEPT && wanted <= got * KEPT;
  });
}

/** A band as analogue prototypes that share a corner or centre, and one digital section for each. */
interface Design {
  prototypes: Prototype[];
  sections: Biquad[];
  /** How sharp the curve is at its sharpest. */
  q: number;
  /** Where it bends, as ratios to the corner or centre. */
  bends: number[];
}

function passDesign(shape: 'highPass' | 'lowPass', slopeDbPerOctave: number, q: number, radians: number): Design {
  const order = slopeDbPerOctave / 6;
  const high = shape === 'highPass';
  const resonant = order === 2 && q !== FLAT_PASS_Q;
  const qs = resonant ? [q] : butterworthQs(order);
  const prototypes = qs.map((each) => (high ? highPassPrototype(each) : lowPassPrototype(each)));
  const sections = prototypes.map((prototype) => matched(prototype, radians));
  if (order % 2 === 0) return { prototypes, sections, q: resonant ? Math.max(q, order) : order, bends: [1] };
  const first = high ? matchedFirstHighPass(radians) : matchedFirstLowPass(radians);
  return {
    prototypes: [high ? FIRST_HIGH_PASS : FIRST_LOW_PASS, ...prototypes],
    sections: [first, ...sections],
    q: order,
    bends: [1],
  };
}

/**
 * A shape whose gain is designed in one direction and inverted for the other, so that a cut undoes the same boost
 * exactly.
 */
function gainDesign(
  shape: 'bell' | 'lowShelf' | 'highShelf' | 'tilt',
  gainDb: number,
  q: number,
  radians: number,
): Design & { gainDb: number } {
  const size = Math.abs(gainDb);
  // A shelf has its poles below its midpoint, and its zeros as far above it.
  const apart = arithmetic().pow(10, size / 80);
  const bends = [1, apart, 1 / apart];
  // The direction whose poles are lower.
  switch (shape) {
    case 'lowShelf': {
      const prototype = lowShelfPrototype(size, q);
      return { prototypes: [prototype], sections: [matched(prototype, radians)], q, bends, gainDb: size };
    }
    case 'highShelf': {
      const prototype = highShelfPrototype(-size, q);
      return { prototypes: [prototype], sections: [matched(prototype, radians)], q, bends, gainDb: -size };
    }
    case 'tilt':
      return {
        prototypes: [tiltPrototype(-size)],
        sections: [matchedTilt(-size, radians)],
        q: 1,
        bends,
        gainDb: -size,
      };
    case 'bell': {
      const prototype = bellPrototype(size, q);
      const poleQ = q * arithmetic().pow(10, size / 40);
      return {
        prototypes: [prototype],
        sections: [matchedBell(prototype, radians, q)],
        q: poleQ,
        bends: [1],
        gainDb: size,
      };
    }
  }
}

/** Designs made before, by everything they depend on: while one band is moved, the others need none. */
const MADE = new Map<string, readonly Biquad[]>();
const MADE_MOST = 500;

/**
 * Second-order sections of one band; empty when it does nothing. One section a prototype where that follows the
 * analogue curve up to 20 kHz within 0.05 dB; closer to the Nyquist frequency three, which always do. Anything below
 * `silent`, a squared magnitude, may be off.
 */
export function bandSections(
  { shape, on, q, slopeDbPerOctave, frequencyHz, gainDb }: EqualizerBand,
  sampleRate: number,
  silent = SILENT,
): readonly Biquad[] {
  if (!on) return [];
  const key = [shape, q, slopeDbPerOctave, frequencyHz, gainDb, sampleRate, silent].join(' ');
  const known = MADE.get(key);
  if (known) return known;
  if (MADE.size >= MADE_MOST) MADE.clear();
  const radians = Math.min((2 * Math.PI * frequencyHz) / sampleRate, HIGHEST);
  const made = sectionsOf({ shape, q, slopeDbPerOctave, gainDb }, radians, sampleRate, silent);
  MADE.set(key, made);
  return made;
}

function sectionsOf(
  { shape, q, slopeDbPerOctave, gainDb }: Pick<EqualizerBand, 'shape' | 'q' | 'slopeDbPerOctave' | 'gainDb'>,
  radians: number,
  sampleRate: number,
  silent: number,
): Biquad[] {
  const frequencyHz = (radians * sampleRate) / (2 * Math.PI);
  const faithful = (design: Design) =>
    follows(design, frequencyHz, sampleRate, silent)
      ? design.sections
      : design.prototypes.flatMap((prototype) => mappedSections(prototype, radians));
  if (shape === 'highPass' || shape === 'lowPass') return faithful(passDesign(shape, slopeDbPerOctave, q, radians));
  if (shape === 'bandPass') {
    const prototype = bandPassPrototype(q);
    return faithful({ prototypes: [prototype], sections: [matched(prototype, radians)], q, bends: [1] });
  }
  if (shape === 'notch')
    return faithful({ prototypes: [notchPrototype(q)], sections: [notch(radians, q)], q, bends: [1] });
  if (Math.abs(gainDb) < NO_GAIN_DB) return [];
  const design = gainDesign(shape, gainDb, q, radians);
  const sections = faithful(design);
  return design.gainDb > 0 === gainDb > 0 ? sections : sections.map(inverse);
}

/** Lowest gain that is drawn, in dB. */
const LOWEST_DB = -200;

/**
 * Gain in dB of a set of sections at a frequency in Hz, for drawing.
 * @example
 * sectionsGainDb([notch(Math.PI / 2, 2)], 0, 48000) // 0
 */
export function sectionsGainDb(sections: readonly Biquad[], frequencyHz: number, sampleRate: number): number {
  const radians = Math.min((2 * Math.PI * frequencyHz) / sampleRate, Math.PI);
  return Math.max(LOWEST_DB, decibels(sections.reduce((gain, section) => gain * biquadMagnitude(section, radians), 1)));
}
