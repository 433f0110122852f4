import { arithmetic } from './arithmetic';
import { squaredMagnitude, type Biquad } from './biquad';
import { prototypeMagnitude, type Prototype } from './prototype';

/*
 * The bilinear transform puts the analogue frequency Ω at tan(ω/2), which runs away to infinity at the Nyquist frequency.
 * Here it is put where it belongs instead: Ω² is a rational function R of v = tan²(ω/2) that follows (ω/2)², exactly so in
 * the limit at 0 Hz, to 0.05 % of the frequency and 0.25 % of its slope up to 20 kHz at 44.1 kHz. An analogue section
 * becomes three digital ones, whose poles and zeros are the roots of cubics, and which have the prototype's magnitude, its
 * frequency axis bent by no more than that. R is positive for all v ≥ 0 and its zeros and poles alternate on the negative
 * axis, so every stable prototype gives a stable, minimum-phase cascade, for every frequency, gain and Q, without a seam.
 * The coefficients are a minimax fit of our own, in x = sin²(ω/2) = v / (1 + v).
 */
const FIT_NUMERATOR = [1, -1.6545945121310761, 0.6641446174652351] as const;
const FIT_DENOMINATOR = [1, -1.9950358569032425, 1.1766830877687946, -0.17755296373569285] as const;

/** R = P / Q, coefficients by rising powers of v. */
const [p0, p1, p2] = FIT_NUMERATOR;
const [q0, q1, q2, q3] = FIT_DENOMINATOR;
const P = [0, p0, 2 * p0 + p1, p0 + p1 + p2] as const;
const Q = [q0, 3 * q0 + q1, 3 * q0 + 2 * q1 + q2, q0 + q1 + q2 + q3] as const;

interface Complex {
  re: number;
  im: number;
}

const multiply = (a: Complex, b: Complex): Complex => ({
  re: a.re * b.re - a.im * b.im,
  im: a.re * b.im + a.im * b.re,
});
const subtract = (a: Complex, b: Complex): Complex => ({ re: a.re - b.re, im: a.im - b.im });
const divide = (a: Complex, b: Complex): Complex => {
  const size = b.re * b.re + b.im * b.im;
  return { re: (a.re * b.re + a.im * b.im) / size, im: (a.im * b.re - a.re * b.im) / size };
};

/** The square root whose real part is not negative. Sums, products and real roots only: the same bits everywhere. */
function squareRoot({ re, im }: Complex): Complex {
  const size = Math.sqrt(re * re + im * im);
  const root = Math.sqrt((size + Math.abs(re)) / 2);
  if (root === 0) return { re: 0, im: 0 };
  if (re >= 0) return { re: root, im: im / (2 * root) };
  return { re: Math.abs(im) / (2 * root), im: im < 0 ? -root : root };
}

const MOST_ROUNDS = 200;

/**
 * The three v at which R is `target`, a value of Ω²; null stands for infinity. By the method of Weierstrass, Durand and
 * Kerner; sorted by their size.
 */
function solve(target: Complex | null): Complex[] {
  const coefficients = P.map((p, i) =>
    target === null ? { re: Q[i], im: 0 } : { re: p - target.re * Q[i], im: -target.im * Q[i] },
  );
  const [c0, c1, c2] = [0, 1, 2].map((i) => divide(coefficients[i], coefficients[3]));
  // Starting points at the zeros and poles of R, and off the axis: the roots are between them, or have left it.
  let roots: Complex[] = [
    { re: -0.1, im: 0.2 },
    { re: -4, im: 1 },
    { re: -40, im: -3 },
  ];
  for (let round = 0; round < MOST_ROUNDS; round++) {
    let moved = 0;
    const next = roots.map((root, k) => {
      const [a, b] = roots.filter((_, other) => other !== k);
      const squared = multiply(root, root);
      const cubic = multiply(squared, root);
      const linear = multiply(c1, root);
      const square = multiply(c2, squared);
      const value = {
        re: cubic.re + square.re + linear.re + c0.re,
        im: cubic.im + square.im + linear.im + c0.im,
      };
      const step = divide(value, multiply(subtract(root, a), subtract(root, b)));
      moved = Math.max(
        moved,
        (Math.abs(step.re) + Math.abs(step.im)) / (Math.abs(root.re) + Math.abs(root.im) + 1e-30),
      );
      return subtract(root, step);
    });
    roots = next;
    if (moved < 1e-15) break;
  }
  const size = ({ re, im }: Complex) => re * re + im * im;
  return roots.sort((a, b) => size(a) - size(b));
}

/** Where a root in v is in z, inside the unit circle or on it: v = −σ², and σ by the bilinear transform. */
function inZ(v: Complex): Complex {
  const sigma = squareRoot({ re: -v.re, im: -v.im });
  return divide({ re: 1 - sigma.re, im: -sigma.im }, { re: 1 + sigma.re, im: sigma.im });
}

/** Second-order polynomial 1 + first·z⁻¹ + second·z⁻². */
interface Factor {
  first: number;
  second: number;
}

/** Factors of what is |u − t|² in u = Ω² for a complex t, or (u − t)² for a real one. */
function ofPair(t: Complex | null): Factor[] {
  return solve(t).map((v) => {
    const { re, im } = inZ(v);
    return { first: -2 * re, second: re * re + im * im };
  });
}

/** Factors of a product of u − t, for t that are real and not positive: all roots are on the axis. */
function ofReals(targets: (number | null)[]): Factor[] {
  const roots = targets.flatMap((t) => solve(t === null ? null : { re: t, im: 0 })).map(({ re }) => Math.min(0, re));
  const z = roots.sort((a, b) => b - a).map((v) => inZ({ re: v, im: 0 }).re);
  return Array.from({ length: Math.ceil(z.length / 2) }, (_, i) => {
    const [a, b = 0] = z.slice(2 * i, 2 * i + 2);
    return { first: -(a + b), second: a * b };
  });
}

/** Factors of a·u² + b·u + c, with its roots scaled; a polynomial of lower degree has roots at infinity. */
function factors([a, b, c]: [number, number, number], scale: number, order: 1 | 2): Factor[] {
  if (order === 1) return ofReals([b === 0 ? null : (-c / b) * scale]);
  if (a === 0) return b === 0 ? ofPair(null) : ofReals([(-c / b) * scale, null]);
  const discriminant = b * b - 4 * a * c;
  if (discriminant <= 0) {
    const im = (Math.sqrt(-discriminant) / (2 * a)) * scale;
    return ofPair({ re: (-b / (2 * a)) * scale, im });
  }
  const root = Math.sqrt(discriminant);
  // Both are not positive: −b carries the larger one without cancelling.
  const larger = (-b - root) / (2 * a);
  return ofReals([larger * scale, larger === 0 ? 0 : (c / (a * larger)) * scale]);
}

/** R at an angular frequency given as sin²(ω/2). */
function mapped(x: number): number {
  const v = x / (1 - x);
  const at = (c: readonly number[]) => ((c[3] * v + c[2]) * v + c[1]) * v + c[0];
  return at(P) / at(Q);
}

/**
 * Digital sections with the magnitude of an analogue prototype of the first or second order, exact at its corner or
 * centre: two for the first order, three for the second. `radians` is that frequency in radians per sample, in (0, π).
 * @example
 * mappedSections(bellPrototype(6, 1), 1).reduce((gain, each) => gain * biquadMagnitude(each, 1), 1) // 1.9953
 */
export function mappedSections(prototype: Prototype, radians: number): Biquad[] {
  const { n2, n1, n0, d2, d1, d0 } = prototype;
  const order = n2 === 0 && d2 === 0 ? 1 : 2;
  const x = arithmetic().sin(radians / 2) ** 2;
  const scale = mapped(x);
  const zeros = factors([n2 * n2, n1 * n1 - 2 * n0 * n2, n0 * n0], scale, order);
  const poles = factors([d2 * d2, d1 * d1 - 2 * d0 * d2, d0 * d0], scale, order);
  const sections = poles.map(({ first, second }, i) => ({
    b0: 1,
    b1: zeros[i].first,
    b2: zeros[i].second,
    a1: first,
    a2: second,
  }));
  // At 0 Hz the magnitude is known exactly; a filter that lets nothing pass there is exact at its corner instead.
  const [ratio, at] = n0 === 0 ? [1, x] : [0, 0];
  const unscaled = sections.reduce((product, section) => product * squaredMagnitude(section, at), 1);
  const gain = prototypeMagnitude(prototype, ratio) / Math.sqrt(unscaled);
  const [{ b1, b2, ...first }, ...others] = sections;
  return [{ ...first, b0: gain, b1: b1 * gain, b2: b2 * gain }, ...others];
}
