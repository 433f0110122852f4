import { highPassPrototype } from '../../signal/prototype';
import type { Biquad } from '../../signal/biquad';
import { inverse } from '../../signal/biquad';
import { amplitude } from '../../signal/decibels';
import { matched, matchedTilt } from '../../signal/matched';
import { PLAIN, slopeOf, type DynamicsDesign } from '../dynamics';
import { LIMITING_RATIO, SIDE_CHAIN_OPEN_HZ, SIDE_CHAIN_TILT_PIVOT_HZ, type CompressorSettings } from './settings';

/** Times that the loop of a FET circuit is quicker, at most: where the ratio has become a limiter's. */
const MOST_LOOP = 20;
/** Seconds in which an opto cell remembers, in ms; it forgets ten times slower than it first lets go. */
const OPTO_RISE_MS = 300;
const OPTO_FALL = 10;
/** Variable mu needs some dB to grow in. */
const LEAST_GROWTH_DB = 1;
/** Strength of the third harmonic at full colour. */
const FULL_COLOUR = 1;

function sideChain({ sideChainHighPassHz, sideChainTiltDb }: CompressorSettings, sampleRate: number): Biquad[] {
  const radians = (hz: number) => (2 * Math.PI * hz) / sampleRate;
  const sections: Biquad[] = [];
  if (sideChainHighPassHz > SIDE_CHAIN_OPEN_HZ)
    sections.push(matched(highPassPrototype(Math.SQRT1_2), radians(sideChainHighPassHz)));
  if (Math.abs(sideChainTiltDb) >= 0.05) {
    const tilt = matchedTilt(-Math.abs(sideChainTiltDb), radians(SIDE_CHAIN_TILT_PIVOT_HZ));
    sections.push(sideChainTiltDb < 0 ? tilt : inverse(tilt));
  }
  return sections;
}

/** What a compressor's settings mean for the gain that follows. */
export function compressorDesign(settings: CompressorSettings, sampleRate: number): DynamicsDesign {
  const { circuit, operation, ratio, kneeDb, mixPercent, releaseMs } = settings;
  const loop = circuit === 'fet' ? Math.min(MOST_LOOP, ratio) : 1;
  const makeup = amplitude(settings.makeupDb);
  const wet = mixPercent / 100;
  return {
    ...PLAIN,
    thresholdDbfs: settings.thresholdDbfs,
    slope: ratio >= LIMITING_RATIO ? 1 : slopeOf(ratio),
    kneeDb,
    growthDb: circuit === 'variableMu' ? Math.max(LEAST_GROWTH_DB, kneeDb) : 0,
    rangeDb: settings.rangeDb,
    attackMs: settings.attackMs / loop,
    onset: settings.onsetPercent / 100,
    releaseMs,
    loop,
    autoRelease: settings.autoRelease,
    memory: circuit === 'opto' ? { riseMs: OPTO_RISE_MS, fallMs: OPTO_FALL * releaseMs } : null,
    detector: settings.detector,
    sideChain: sideChain(settings, sampleRate),
    link: settings.linkPercent / 100,
    first: operation !== 'side',
    second: operation !== 'mid',
    dry: (1 - wet) * makeup,
    wet: wet * makeup,
    colour: circuit === 'fet' ? (FULL_COLOUR * settings.colourPercent) / 100 : 0,
  };
}
