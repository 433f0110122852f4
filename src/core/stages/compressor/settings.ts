import { z } from 'zod';
import { choice, quantity, toggle } from '../setting';

/** From this ratio on nothing passes the threshold. */
export const LIMITING_RATIO = 100;
/** The side-chain high-pass is off at this frequency in Hz. */
export const SIDE_CHAIN_OPEN_HZ = 20;
/** Where the side-chain's tilt leaves the level as it is. */
export const SIDE_CHAIN_TILT_PIVOT_HZ = 1000;

export const compressorSettings = z.strictObject({
  circuit: choice({
    title: 'Circuit',
    help: 'How the compressor reacts, named after the circuits the trade knows it from.',
    options: [
      {
        value: 'vca',
        title: 'VCA, feed-forward',
        help: 'Feed-forward: it hears the input and does what the curve says. Good for anything, and clean; costs nothing but character.',
      },
      {
        value: 'fet',
        title: 'FET, feedback',
        help: 'Feedback: it hears its own output, so its times get faster with the ratio, and it adds odd harmonics while it works. Good for drums and edge; costs clarity and, when set fast, the bass.',
      },
      {
        value: 'opto',
        title: 'Opto, two-stage release',
        help: 'Releases in two stages: half quickly, the rest ten times slower, and it remembers anything longer than 0.3 s. Good for voices and smooth levelling; slow to recover after a long loud passage.',
      },
      {
        value: 'variableMu',
        title: 'Variable mu, growing ratio',
        help: 'The ratio grows from 1 with the level above the threshold, across the knee. Good for glue you do not hear working; costs grip on peaks.',
      },
    ],
    default: 'vca',
  }),
  operation: choice({
    title: 'Works on',
    help: 'Left and right, mid and side as a pair, or one of them. Mid only holds voice, kick and bass and leaves the width alone.',
    options: [
      { value: 'stereo', title: 'Left and right' },
      { value: 'midSide', title: 'Mid and side' },
      { value: 'mid', title: 'Mid only' },
      { value: 'side', title: 'Side only' },
    ],
    default: 'stereo',
  }),
  thresholdDbfs: quantity({
    title: 'Threshold',
    unit: 'dBFS',
    min: -60,
    max: 0,
    step: 0.1,
    default: 0,
    help: 'Anything louder is turned down. Lower it until the loudest passage shows 1 to 2 dB of gain reduction: a finished mix rarely wants more than 3.',
  }),
  ratio: quantity({
    title: 'Ratio',
    unit: ': 1',
    min: 1,
    max: LIMITING_RATIO,
    step: 0.05,
    default: 2,
    scale: 'logarithmic',
    help: 'How many dB of input above the threshold give one dB of output. 1.5 to 3 glues a mix; 10 and more limits; 100 lets nothing through.',
  }),
  kneeDb: quantity({
    title: 'Knee',
    unit: 'dB',
    min: 0,
    max: 24,
    step: 0.5,
    default: 6,
    help: 'Width of the bend around the threshold. Wide is unobtrusive and starts early; none is decisive. With variable mu, the dB above the threshold over which most of the ratio builds up.',
  }),
  attackMs: quantity({
    title: 'Attack',
    unit: 'ms',
    min: 0.02,
    max: 300,
    step: 0.01,
    default: 30,
    scale: 'logarithmic',
    help: 'Time to 63 % of a reduction. Longer lets the transient through: punch. Short with a slow release gives glue and costs punch; very short distorts the bass. The level is read every four samples, so below 0.1 ms the gain arrives within those four.',
  }),
  onsetPercent: quantity({
    title: 'Onset',
    unit: '%',
    min: -100,
    max: 100,
    step: 1,
    default: 0,
    help: 'Shape of the attack at the same 63 % time. Below 0 it starts gently and lets the transient through; above 0 up to 45 % of the reduction comes at once and catches it, at the cost of edge, and the release starts later by up to two and a half attack times.',
  }),
  releaseMs: quantity({
    title: 'Release',
    unit: 'ms',
    min: 5,
    max: 3000,
    step: 1,
    default: 200,
    scale: 'logarithmic',
    help: 'Time to 63 % of the way back. Too short pumps and distorts the bass; too long keeps a quiet passage down after a loud one. With auto release, the longest it takes.',
  }),
  autoRelease: toggle({
    title: 'Auto release',
    help: 'Follows the crest factor: fast after short peaks, slow in dense passages. Good for a full mix; costs a fixed rhythm.',
    default: false,
  }),
  rangeDb: quantity({
    title: 'Range',
    unit: 'dB',
    min: 0,
    max: 48,
    step: 0.5,
    default: 48,
    help: 'The most gain reduction allowed. A small range stops one accident from pulling everything down.',
  }),
  lookAheadMs: quantity({
    title: 'Look-ahead',
    unit: 'ms',
    min: 0,
    max: 10,
    step: 0.1,
    default: 0,
    help: 'How early the gain starts to fall before the peak that causes it. Catches hits with a gentle attack; costs as much latency, and punch.',
  }),
  detector: choice({
    title: 'Detector',
    help: 'Peak catches single hits; RMS follows loudness and works more evenly. A tone reads the same on both.',
    options: [
      { value: 'peak', title: 'Peak' },
      { value: 'rms', title: 'RMS, 10 ms' },
    ],
    default: 'peak',
  }),
  sideChainHighPassHz: quantity({
    title: 'Side-chain high-pass',
    unit: 'Hz',
    min: SIDE_CHAIN_OPEN_HZ,
    max: 500,
    step: 1,
    default: SIDE_CHAIN_OPEN_HZ,
    scale: 'logarithmic',
    help: 'Takes the bass out of what the detector hears, at 12 dB/octave, so the kick does not pump the mix. 20 Hz is off.',
  }),
  sideChainTiltDb: quantity({
    title: 'Side-chain tilt',
    unit: 'dB',
    min: -6,
    max: 6,
    step: 0.1,
    default: 0,
    help: 'Above 0 the detector hears more above 1 kHz and less below; below 0 the other way round.',
  }),
  linkPercent: quantity({
    title: 'Stereo link',
    unit: '%',
    min: 0,
    max: 100,
    step: 1,
    default: 100,
    help: '100 %: both channels follow the louder one, and the image stays put. Less leaves a quiet channel alone; costs a steady image.',
  }),
  mixPercent: quantity({
    title: 'Dry/wet',
    unit: '%',
    min: 0,
    max: 100,
    step: 1,
    default: 100,
    help: 'Share of the compressed sound. A little heavy compression mixed in lifts quiet detail and leaves the transients alone.',
  }),
  makeupDb: quantity({
    title: 'Makeup',
    unit: 'dB',
    min: -12,
    max: 24,
    step: 0.1,
    default: 0,
    help: 'Gain after the compressor. With auto makeup it is set from the measured loudness, so more compression is not simply louder.',
  }),
  makeupMatched: toggle({
    title: 'Auto makeup',
    help: 'Sets the makeup after each measurement so that the output is as loud as the input: you hear compression, not level.',
    default: false,
  }),
  colourPercent: quantity({
    title: 'Colour',
    unit: '%',
    min: 0,
    max: 100,
    step: 1,
    default: 50,
    help: 'Odd harmonics of the FET circuit; they grow with the gain reduction and the level. Good for edge and presence; costs clarity. Without gain reduction there are none.',
  }),
});

export type CompressorSettings = z.infer<typeof compressorSettings>;
export type Circuit = CompressorSettings['circuit'];
