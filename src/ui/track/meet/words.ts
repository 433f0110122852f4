import { MOST_PASSES, type Handhold, type Means, type Meeting } from '../../../core/deliver/meet';
import { change, figure } from '../../../core/measure/figure';

/** What moving each costs and gives. */
export const MEANS_HELP: Record<Means, string> = {
  limiter: 'More input into the limiter: loud, and the first to cost punch.',
  clipper: 'More input into the clipper: keeps punch longer than the limiter, and distorts short peaks.',
  makeup: 'The last makeup: everything after it is driven harder.',
  trim: 'A trim at the end: nothing else changes, and peaks move with it.',
};

/** What a setting is moved to. */
export function movement({ value: before }: Handhold, value: number): string {
  return `${change(before)} → ${change(value)} dB`;
}

/** Why a destination can’t be met, and what the nearest is. */
export function obstacleWords({ obstacle, handhold, value, missingDb, reading }: Meeting): string {
  const nearest = `The nearest is ${figure(reading.integratedLufs)} LUFS at ${figure(reading.truePeakDbtp)} dBTP, ${figure(Math.abs(missingDb))} LU ${missingDb > 0 ? 'too quiet' : 'too loud'}.`;
  switch (obstacle) {
    case 'range':
      return `${handhold.title}, goes no ${value >= handhold.max ? 'higher' : 'lower'} than ${figure(value)} dB. ${nearest} Move another setting as well.`;
    case 'saturated':
      return `More than ${figure(value)} dB makes it no louder. ${nearest} Choose a quieter destination, or shape the mix before the limiter.`;
    case 'peaks':
      return `The true peak is in the way. ${nearest} Choose the limiter, or put one at the end of the lane.`;
    case 'moments':
      return `The loudest moments are in the way: they reach their own maximum first. ${nearest} Compress or ride them down.`;
    case 'silence':
      return 'There is no sound that loudness could be measured of.';
    case null:
      return `It was not found in ${MOST_PASSES} passes. ${nearest}`;
  }
}
