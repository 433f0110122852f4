import { z } from 'zod';
import { quantity } from '../definition';

/** What sets the behaviour, by the circuits that the trade names it after. */
export const CIRCUITS = ['vca', 'fet', 'opto', 'variableMu'] as const;
export type Circuit = (typeof CIRCUITS)[number];

/** What the compressor listens to and works on; `midSide` treats mid and side as a pair. */
export const OPERATIONS = ['stereo', 'midSide', 'mid', 'side'] as const;
export const DETECTORS = ['peak', 'rms'] as const;

/** From this ratio on nothing passes the threshold. */
export const LIMITING_RATIO = 100;
/** The side-chain's high-pass is off at this frequency in Hz. */
export const SIDE_CHAIN_OPEN_HZ = 20;

export const compressorSettings = z.strictObject({
  circuit: z.enum(CIRCUITS).default('vca'),
  operation: z.enum(OPERATIONS).default('stereo'),
  thresholdDbfs: quantity({
    title: 'Threshold',
    unit: 'dBFS',
    min: -60,
    max: 0,
    step: 0.1,
    default: 0,
    help: 'What is louder is turned down. Lower it until the loudest passage shows 1 to 2 dB of gain reduction: a finished mix rarely wants more than 3.',
  }),
  ratio: quantity({
    title: 'Ratio',
    unit: ': 1',
    min: 1,
    max: LIMITING_RATIO,
    step: 0.05,
    default: 2,
    scale: 'logarithmic',
    help: 'How many dB more must go in for one more to come out above the threshold. 1.5 to 3 holds a mix together; 10 and more limits; 100 lets nothing pass.',
  }),
  kneeDb: quantity({
    title: 'Knee',
    unit: 'dB',
    min: 0,
    max: 24,
    step: 0.5,
    default: 6,
    help: 'Width of the bend around the threshold. Wide is unobtrusive and begins early; none is definite. With variable mu, the dB above the threshold in which the ratio grows to most of its value.',
  }),
  attackMs: quantity({
    title: 'Attack',
    unit: 'ms',
    min: 0.02,
    max: 300,
    step: 0.01,
    default: 30,
    scale: 'logarithmic',
    help: 'Time to 63 % of a reduction. Longer lets the transient through: punch. Short with a slow release: cohesion, at the cost of punch; very short distorts the bass. The level is looked at every four samples, so below 0.1 ms the gain is there within those four.',
  }),
  onsetPercent: quantity({
    title: 'Onset',
    unit: '%',
    min: -100,
    max: 100,
    step: 1,
    default: 0,
    help: 'Shape of the attack, with the same time to 63 %. Below 0 it begins gently and lets the transient through; above 0 up to 45 % of the reduction comes at once and catches it, at the cost of edge; the release then begins later, by up to two and a half attack times.',
  }),
  releaseMs: quantity({
    title: 'Release',
    unit: 'ms',
    min: 5,
    max: 3000,
    step: 1,
    default: 200,
    scale: 'logarithmic',
    help: 'Time to 63 % of the way back. Too short pumps and distorts the bass, too long keeps the quiet passage down that follows a loud one. With automatic release, the longest that it takes.',
  }),
  autoRelease: z.boolean().default(false),
  rangeDb: quantity({
    title: 'Range',
    unit: 'dB',
    min: 0,
    max: 48,
    step: 0.5,
    default: 48,
    help: 'The most that the gain falls. A small range keeps an accident from pulling everything down.',
  }),
  lookAheadMs: quantity({
    title: 'Look-ahead',
    unit: 'ms',
    min: 0,
    max: 10,
    step: 0.1,
    default: 0,
    help: 'How early the gain begins to fall before what causes it. Good for catching hits with a calm attack; costs as much latency, and punch.',
  }),
  detector: z.enum(DETECTORS).default('peak'),
  sideChainHighPassHz: quantity({
    title: 'Key high-pass',
    unit: 'Hz',
    min: SIDE_CHAIN_OPEN_HZ,
    max: 500,
    step: 1,
    default: SIDE_CHAIN_OPEN_HZ,
    scale: 'logarithmic',
    help: 'Takes the bass out of what the compressor listens to, at 12 dB per octave, so that the kick does not pump everything. 20 Hz is off.',
  }),
  sideChainTiltDb: quantity({
    title: 'Key tilt',
    unit: 'dB',
    min: -6,
    max: 6,
    step: 0.1,
    default: 0,
    help: 'Above 0 the compressor listens more to what lies above 1 kHz and less to what lies below; below 0 the other way.',
  }),
  linkPercent: quantity({
    title: 'Stereo link',
    unit: '%',
    min: 0,
    max: 100,
    step: 1,
    default: 100,
    help: '100 %: both sides move by the louder one, and the image stands still. Less lets a side that is quiet stay as it is; costs steadiness of the image.',
  }),
  mixPercent: quantity({
    title: 'Dry/wet',
    unit: '%',
    min: 0,
    max: 100,
    step: 1,
    default: 100,
    help: 'Share of the compressed sound. Heavy compression mixed in low lifts what is quiet and leaves the transients alone.',
  }),
  makeupDb: quantity({
    title: 'Makeup',
    unit: 'dB',
    min: -12,
    max: 24,
    step: 0.1,
    default: 0,
    help: 'Gain behind the compressor. Matched, it is set by measurement after each full pass, so that the stage is as loud out as in and more compression is not simply louder.',
  }),
  makeupMatched: z.boolean().default(false),
  colourPercent: quantity({
    title: 'Colour',
    unit: '%',
    min: 0,
    max: 100,
    step: 1,
    default: 50,
    help: 'Odd harmonics of the FET circuit; they grow with the gain reduction and the level. Good for edge and presence; costs clarity, and there are none without gain reduction.',
  }),
});

export type CompressorSettings = z.infer<typeof compressorSettings>;

/** What each circuit is good for, and what it costs. */
export const CIRCUIT_HELP: Record<Circuit, string> = {
  vca: 'Feed-forward: it hears what comes in and does what the curve says. Good for anything, and clean; costs nothing but character.',
  fet: 'Feedback: it hears what comes out, so its times are as many times quicker as the ratio, and it adds odd harmonics while it works. Good for drums and edge; costs clarity and, when set fast, the bass.',
  opto: 'Lets go in two stages: half of what it remembers quickly, the rest ten times slower, and it remembers what lasts longer than 0.3 s. Good for voices and smooth levelling; costs quick recovery after a long loud passage.',
  variableMu:
    'The ratio grows from 1 with the level above the threshold, over the knee. Good for holding a mix together without being heard; costs grip on peaks.',
};
