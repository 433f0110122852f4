import { decibels } from '../signal/decibels';

/** A steady tone has moved the indication to this share of its end after so many seconds (IEC 60268-17; from memory). */
const REACHED = 0.99;
const REACHED_SECONDS = 0.3;
/** Overshoot of the indication: between 1 and 1.5 % (IEC 60268-17; from memory). */
const OVERSHOOT = 0.0125;
/** A sine's peak against the mean of its rectified wave. */
const SINE_PEAK = Math.PI / 2;

/** Damping of a second-order system with an overshoot: exp(−πζ / √(1 − ζ²)). */
const DAMPING = Math.log(1 / OVERSHOOT) / Math.hypot(Math.PI, Math.log(1 / OVERSHOOT));

/** Step response of such a system at a time, as its natural angular frequency times the time. */
function stepResponse(phase: number): number {
  const rest = Math.sqrt(1 - DAMPING * DAMPING);
  const turned = rest * phase;
  return 1 - Math.exp(-DAMPING * phase) * (Math.cos(turned) + (DAMPING / rest) * Math.sin(turned));
}

/** Natural angular frequency in radians a second with which the indication reaches its share in time. */
function naturalFrequency(): number {
  let [low, high] = [0, Math.PI / Math.sqrt(1 - DAMPING * DAMPING)];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (stepResponse(middle) < REACHED) low = middle;
    else high = middle;
  }
  return high / REACHED_SECONDS;
}

/**
 * A volume indicator (VU, IEC 60268-17): the mean of the rectified wave, moved like a needle of the second order. A steady
 * sine reads its peak level.
 */
export class VuMeter {
  private readonly step: number;
  private readonly stiffness: number;
  private readonly friction: number;
  private position = 0;
  private speed = 0;

  /** `sampleRate` in Hz. */
  constructor(sampleRate: number) {
    const frequency = naturalFrequency();
    this.step = 1 / sampleRate;
    this.stiffness = frequency * frequency;
    this.friction = 2 * DAMPING * frequency;
  }

  /** Takes some samples of one channel. */
  add(samples: Float32Array | Float64Array): void {
    const { step, stiffness, friction } = this;
    let { position, speed } = this;
    for (let i = 0; i < samples.length; i++) {
      speed += step * (stiffness * (Math.abs(samples[i]) - position) - friction * speed);
      position += step * speed;
    }
    // Neither a number that is none nor one that is too small to matter stays.
    this.position = position > 1e-15 && Number.isFinite(position) ? position : 0;
    this.speed = Math.abs(speed) > 1e-15 && Number.isFinite(speed) ? speed : 0;
  }

  /** dBFS that a steady sine would have which reads the same; the zero of the scale is whatever the reader chooses. */
  get levelDbfs(): number {
    return decibels(SINE_PEAK * this.position);
  }
}
