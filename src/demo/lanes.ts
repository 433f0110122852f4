import { EMPTY_LANE, LANE_SCHEMA, parseLane, type Lane } from '../core/lane/schema';

const trim = (gainDb: number) => ({ kind: 'trim', settings: { gainDb } });
const equalizer = (settings: object, others: object = {}) => ({ kind: 'equalizer', settings, ...others });
const limiter = (inputGainDb: number, settings: object = {}) => ({
  kind: 'limiter',
  settings: { inputGainDb, ceilingDbtp: -1, ...settings },
});

const LANES: Record<number, object[]> = {
  // Perihelion: the ringing resonance goes; the highs open. The second alternative tries fewer moves, at half their gain.
  1: [
    trim(-3),
    equalizer(
      {
        bands: [
          { shape: 'highPass', frequencyHz: 24, slopeDbPerOctave: 24 },
          { shape: 'bell', frequencyHz: 110, gainDb: 1.2, q: 0.9 },
          { shape: 'bell', frequencyHz: 420, gainDb: -1.4, q: 1.1 },
          { shape: 'bell', frequencyHz: 3400, gainDb: -7, q: 9 },
          { shape: 'highShelf', frequencyHz: 11000, gainDb: 1.5, q: 0.71 },
        ],
      },
      {
        alternatives: [
          { name: 'Full', settings: null },
          {
            name: 'Half',
            settings: {
              scalePercent: 50,
              bands: [
                { shape: 'highPass', frequencyHz: 24, slopeDbPerOctave: 24 },
                { shape: 'bell', frequencyHz: 3400, gainDb: -10, q: 9 },
                { shape: 'highShelf', frequencyHz: 11000, gainDb: 3, q: 0.71 },
              ],
            },
          },
        ],
      },
    ),
    {
      kind: 'compressor',
      settings: {
        thresholdDbfs: -24,
        ratio: 1.6,
        attackMs: 30,
        releaseMs: 180,
        autoRelease: true,
        detector: 'rms',
        sideChainHighPassHz: 90,
        makeupDb: 0.9,
        makeupMatched: true,
      },
    },
    limiter(8.2, { recoveryMs: 120 }),
  ],
  // Debris Field: what clipped is harsh only where it is loud, so the cut comes only there.
  2: [
    trim(-6),
    equalizer({
      bands: [
        { shape: 'bell', frequencyHz: 190, gainDb: -1.5, q: 1.2 },
        {
          shape: 'bell',
          frequencyHz: 3000,
          q: 1.4,
          dynamics: { thresholdDbfs: -30, rangeDb: -3.5, attackMs: 8, releaseMs: 120 },
        },
        { shape: 'highShelf', frequencyHz: 7500, gainDb: -1.5, q: 0.71 },
      ],
    }),
  ],
  // Undertow: the bass comes to the middle, and is heard on small speakers too; the tips go before the limiter. Linear phase, so that mid and side stay together where only one is lifted.
  3: [
    trim(-3),
    {
      kind: 'stereo',
      settings: { monoBelow: true, monoUpperHz: 130, monoLowerHz: 60, widthsPercent: [100, 100, 115, 100, 100] },
    },
    equalizer({
      phase: 'linear',
      bands: [
        { shape: 'bell', part: 'mid', frequencyHz: 85, gainDb: 2, q: 0.8 },
        { shape: 'tilt', frequencyHz: 900, gainDb: 0.8 },
      ],
    }),
    // Harmonics let the bass be heard where it cannot be felt.
    {
      kind: 'saturation',
      settings: {
        curve: 'mixedSoft',
        driveDb: 9,
        mixPercent: 45,
        split: 'bands',
        bandDrivesDb: [3, 0, -6, 0, 0],
        bandAmountsPercent: [100, 60, 20, 100, 100],
        makeupDb: 0.3,
      },
    },
    { kind: 'clipper', settings: { curve: 'smooth', inputGainDb: 6, ceilingDbfs: -8, kneePercent: 25 } },
    limiter(4, { recoveryMs: 40, autoRecoveryPercent: 100 }),
  ],
  // Long Dusk: quiet parts stay as they are; the loud end is kept from getting heavy and sharp.
  4: [
    trim(1),
    equalizer({
      bands: [
        { shape: 'highPass', frequencyHz: 22, slopeDbPerOctave: 18 },
        {
          shape: 'lowShelf',
          frequencyHz: 220,
          dynamics: { thresholdDbfs: -26, rangeDb: -3, attackMs: 60, releaseMs: 600 },
        },
        {
          shape: 'highShelf',
          frequencyHz: 4500,
          dynamics: { thresholdDbfs: -38, rangeDb: -3, attackMs: 20, releaseMs: 400 },
        },
      ],
    }),
    {
      kind: 'bandDynamics',
      settings: {
        bands: [
          { compression: { thresholdDbfs: -14, ratio: 1.8, attackMs: 40, releaseMs: 250 } },
          { compression: { thresholdDbfs: -12, ratio: 1.6, attackMs: 30, releaseMs: 220 } },
          { compression: { thresholdDbfs: -26, ratio: 1.6, attackMs: 12, releaseMs: 160 }, makeupDb: 0.5 },
          {},
          {},
        ],
      },
    },
    limiter(2.8, { recoveryMs: 300 }),
  ],
  // Zodiacal Light: nothing lives above 22 kHz; what is there of air is lifted on the side alone.
  5: [
    trim(-2),
    equalizer({
      bands: [
        { shape: 'lowPass', frequencyHz: 20000, slopeDbPerOctave: 24 },
        { shape: 'bell', frequencyHz: 300, gainDb: -1.2, q: 0.9 },
        { shape: 'highShelf', part: 'side', frequencyHz: 9000, gainDb: 2, q: 0.71 },
      ],
    }),
    { kind: 'deEsser', settings: { frequencyHz: 7200, thresholdDb: -14, rangeDb: 3, part: 'mid' } },
    { kind: 'room', settings: { impulse: 'hall', wetDb: -30, preDelayMs: 24, highPassHz: 250, lowPassHz: 7500 } },
    limiter(5),
  ],
};

/** The starting lane of a piece by its position in the release. */
export function startingLane(position: number): Lane {
  const stages = LANES[position]?.map((stage, i) => ({ id: `start-${i + 1}`, ...stage }));
  return stages ? parseLane({ schema: LANE_SCHEMA, stages }) : EMPTY_LANE;
}
