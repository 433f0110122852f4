import { controlValue } from '../lane/control-path';
import { LANE_SCHEMA, parseLane } from '../lane/schema';
import { scalesOf } from './handles';
import { HOUSE_LANE_SCHEMA, houseLaneSchema, type HouseLane, type Material, type Purpose } from './house-lane';

type Settings = Record<string, unknown>;
/** Id, kind, settings, and a name where the kind’s own says too little. */
type Written = readonly [id: string, kind: string, settings: Settings, name?: string];
/** Name, and for each control its value at 0 and at 100 %. */
type WrittenHandle = readonly [
  name: string,
  ...(readonly [stage: string, control: string, from: number, to: number])[],
];

function written(
  name: string,
  material: Material,
  purpose: Purpose,
  sentence: string,
  stages: readonly Written[],
  handles: readonly WrittenHandle[],
): HouseLane {
  const lane = parseLane({
    schema: LANE_SCHEMA,
    stages: stages.map(([id, kind, settings, title]) => ({ id, kind, settings, ...(title ? { name: title } : {}) })),
  });
  const rest = (stage: string, control: string) => {
    const found = lane.stages.find(({ id }) => id === stage);
    const value = found ? controlValue(found, control) : null;
    if (value === null) throw new Error(`“${name}” has no control ${stage}.${control}.`);
    return value;
  };
  const house = {
    name,
    handles: handles.map(([title, ...moves]) => ({
      name: title,
      moves: moves.map(([stage, control, from, to]) => ({ stage, control, from, to, rest: rest(stage, control) })),
    })),
    scales: scalesOf(lane),
  };
  const data = { schema: HOUSE_LANE_SCHEMA, name, material, purpose, sentence, lane: { ...lane, house } };
  return houseLaneSchema.parse(data);
}

const tone = (...bands: Settings[]): Written => ['tone', 'equalizer', { bands }];
const low = (frequencyHz: number, gainDb: number) => ({ shape: 'lowShelf', frequencyHz, gainDb });
const high = (frequencyHz: number, gainDb: number) => ({ shape: 'highShelf', frequencyHz, gainDb });
const bell = (frequencyHz: number, gainDb: number, q = 0.8) => ({ shape: 'bell', frequencyHz, gainDb, q });
const rumble = (frequencyHz: number) => ({ shape: 'highPass', frequencyHz, slopeDbPerOctave: 12 });
const glue = (settings: Settings): Written => [
  'glue',
  'compressor',
  { ratio: 1.6, attackMs: 30, autoRelease: true, detector: 'rms', sideChainHighPassHz: 90, ...settings },
];
const limiter = (settings: Settings): Written => [
  'limiter',
  'limiter',
  { ceilingDbtp: -1, autoRecoveryPercent: 50, ...settings },
];

const loudness = (from: number, to: number): WrittenHandle => ['Loudness', ['limiter', 'inputGainDb', from, to]];
const weight = (range: number): WrittenHandle => ['Weight', ['tone', 'bands.0.gainDb', -range, range]];
const density = (from: number, to: number): WrittenHandle => [
  'Density',
  ['glue', 'thresholdDbfs', from, to],
  ['glue', 'ratio', 1.2, 2.4],
];
const width = (from: number, to: number): WrittenHandle => [
  'Width',
  ['image', 'widthsPercent.2', from, to],
  ['image', 'widthsPercent.3', from, to],
  ['image', 'widthsPercent.4', from, to],
];

/** The house lanes that ship with the product: starting points of our own, to be changed by hand (our own judgement). */
export const HOUSE_LANES: readonly HouseLane[] = [
  written(
    ...(['Even finish', 'any', 'finish'] as const),
    'Small moves for a mix that is nearly there: a little weight and air, a dB of compression, a quiet limiter.',
    [tone(low(90, 0), bell(350, 0), high(9000, 0.5)), glue({ thresholdDbfs: -18 }), limiter({ inputGainDb: 4 })],
    [weight(2), ['Presence', ['tone', 'bands.2.gainDb', -1.5, 2.5]], density(-12, -26), loudness(0, 8)],
  ),
  written(
    ...(['Band, close and warm', 'band', 'finish'] as const),
    'For a band that was mixed bright: thickens the low middle, rounds the top and lets the drums through.',
    [
      tone(low(100, 0.8), bell(2800, -0.8), high(10000, -0.5)),
      [
        'warmth',
        'saturation',
        { curve: 'mixedSoft', driveDb: 5, mixPercent: 40, protectBelowHz: 100, makeupMatched: false },
      ],
      glue({ thresholdDbfs: -20, attackMs: 40 }),
      limiter({ inputGainDb: 5 }),
    ],
    [
      weight(2.5),
      ['Warmth', ['warmth', 'driveDb', 0, 11], ['warmth', 'mixPercent', 10, 70]],
      ['Presence', ['tone', 'bands.1.gainDb', -2.4, 1.2], ['tone', 'bands.2.gainDb', -2, 1.5]],
      density(-14, -28),
      loudness(0, 9),
    ],
  ),
  written(
    ...(['Band, tight and forward', 'band', 'loud'] as const),
    'For guitars and drums that should stand at the front: leaner below, harder peaks, a clipper before the limiter.',
    [
      tone(low(80, -0.5), bell(240, -1), bell(3200, 1)),
      glue({ thresholdDbfs: -20, ratio: 2, attackMs: 20 }),
      ['peaks', 'clipper', { curve: 'firm', inputGainDb: 3, ceilingDbfs: -1 }],
      limiter({ inputGainDb: 3, recoveryMs: 90 }),
    ],
    [
      weight(2),
      ['Bite', ['tone', 'bands.2.gainDb', -0.5, 2.5]],
      density(-14, -28),
      ['Punch', ['peaks', 'inputGainDb', 0, 7]],
      loudness(0, 8),
    ],
  ),
  written(
    ...(['Acoustic, air and room', 'acoustic', 'gentle'] as const),
    'For guitar, piano or a small ensemble: opens the top, widens it a little and hardly touches the dynamics.',
    [
      tone(low(80, 0), bell(300, -0.5), high(11000, 1.2)),
      ['image', 'stereo', { widthsPercent: [100, 100, 105, 110, 112], monoBelow: false }],
      limiter({ inputGainDb: 2, recoveryMs: 250 }),
    ],
    [weight(2), ['Air', ['tone', 'bands.2.gainDb', 0, 3]], width(90, 130), loudness(-2, 6)],
  ),
  written(
    ...(['Acoustic, singer in front', 'acoustic', 'finish'] as const),
    'For a voice with few instruments: steadies sibilants and the low middle so that the words stay clear when it is loud.',
    [
      tone(rumble(30), bell(260, -0.8), bell(2500, 0.8)),
      ['sibilants', 'deEsser', { frequencyHz: 7000, thresholdDb: -10, rangeDb: 3, part: 'mid' }],
      glue({ thresholdDbfs: -20, circuit: 'opto' }),
      limiter({ inputGainDb: 3 }),
    ],
    [
      ['Clarity', ['tone', 'bands.1.gainDb', 0.6, -2.2], ['tone', 'bands.2.gainDb', -0.6, 2.2]],
      ['Sibilants', ['sibilants', 'rangeDb', 0, 6], ['sibilants', 'thresholdDb', -6, -14]],
      density(-14, -28),
      loudness(-1, 7),
    ],
  ),
  written(
    ...(['Electronic, deep and loud', 'electronic', 'loud'] as const),
    'For bass and drums from machines: bass in the middle, a shelf that gives way to the kick, clipper and limiter.',
    [
      ['image', 'stereo', { monoBelow: true, monoUpperHz: 120 }],
      tone(
        { ...low(70, 0.8), dynamics: { thresholdDbfs: -14, rangeDb: -2, attackMs: 12, releaseMs: 120 } },
        bell(300, -0.8),
        high(9000, 0.8),
      ),
      ['peaks', 'clipper', { curve: 'hard', inputGainDb: 4, ceilingDbfs: -0.8 }],
      limiter({ inputGainDb: 4, recoveryMs: 60, autoRecoveryPercent: 80 }),
    ],
    [
      weight(3),
      ['Sparkle', ['tone', 'bands.2.gainDb', -1, 2.6]],
      width(90, 135),
      ['Punch', ['peaks', 'inputGainDb', 0, 8]],
      loudness(0, 9),
    ],
  ),
  written(
    ...(['Electronic, wide and soft', 'electronic', 'finish'] as const),
    'For pads and slow pieces: soft harmonics, a wide top and long recoveries that leave no pumping behind.',
    [
      tone(low(90, 0.5), high(8000, 0.8)),
      [
        'warmth',
        'saturation',
        { curve: 'even', driveDb: 4, mixPercent: 35, protectBelowHz: 120, makeupMatched: false },
      ],
      ['image', 'stereo', { widthsPercent: [100, 100, 108, 118, 122], monoBelow: true, monoUpperHz: 90 }],
      limiter({ inputGainDb: 3, recoveryMs: 400 }),
    ],
    [weight(2), ['Warmth', ['warmth', 'driveDb', 0, 10]], width(95, 145), loudness(-1, 7)],
  ),
  written(
    ...(['Orchestra, untouched dynamics', 'orchestral', 'gentle'] as const),
    'For concert recordings: rumble out, a touch of air, and a limiter that only catches the odd peak.',
    [
      tone(rumble(25), bell(450, -0.4, 0.6), high(12000, 0.6)),
      limiter({ inputGainDb: 0, recoveryMs: 600, lookAheadMs: 8 }),
    ],
    [['Body', ['tone', 'bands.1.gainDb', -1.6, 0.8]], ['Air', ['tone', 'bands.2.gainDb', -0.6, 1.8]], loudness(-4, 6)],
  ),
  written(
    ...(['Choir in a hall', 'orchestral', 'finish'] as const),
    'For voices in a large room: clears the blur around 300 Hz and lifts words without hardening them.',
    [
      tone(rumble(40), bell(320, -1, 0.9), bell(3000, 0.6, 0.6)),
      glue({ thresholdDbfs: -24, ratio: 1.4, attackMs: 60, releaseMs: 600, autoRelease: false }),
      limiter({ inputGainDb: 2, recoveryMs: 500 }),
    ],
    [
      ['Blur', ['tone', 'bands.1.gainDb', 0.5, -2.5]],
      ['Words', ['tone', 'bands.2.gainDb', -0.6, 1.8]],
      ['Density', ['glue', 'thresholdDbfs', -18, -30]],
      loudness(-2, 6),
    ],
  ),
  written(
    ...(['Spoken word, even level', 'voice', 'speech'] as const),
    'For talk and narration at broadcast loudness: even levels, tame sibilants, no rumble.',
    [
      tone(rumble(70), bell(200, -1), bell(3500, 1)),
      ['sibilants', 'deEsser', { frequencyHz: 6500, thresholdDb: -9, rangeDb: 4 }],
      glue({ thresholdDbfs: -26, ratio: 2.5, attackMs: 10, circuit: 'opto' }),
      limiter({ inputGainDb: 0, ceilingDbtp: -1.5 }),
    ],
    [
      ['Body', ['tone', 'bands.1.gainDb', -2.5, 1]],
      ['Clarity', ['tone', 'bands.2.gainDb', -0.5, 2.5]],
      ['Sibilants', ['sibilants', 'rangeDb', 0, 8]],
      ['Evenness', ['glue', 'thresholdDbfs', -18, -34], ['glue', 'ratio', 1.5, 4]],
      loudness(-6, 6),
    ],
  ),
  written(
    ...(['Harsh mix, calmed', 'any', 'repair'] as const),
    'For a mix that hurts when it gets loud: bands around 3 and 8 kHz that give way only while they are too strong.',
    [
      tone(
        { ...bell(3200, 0, 1.2), dynamics: { thresholdDbfs: -32, rangeDb: -3, attackMs: 5, releaseMs: 80 } },
        { ...high(8000, 0), dynamics: { thresholdDbfs: -38, rangeDb: -3, attackMs: 3, releaseMs: 60 } },
        low(110, 0.5),
      ),
      limiter({ inputGainDb: 2 }),
    ],
    [
      ['Calm', ['tone', 'bands.0.dynamics.rangeDb', 0, -6], ['tone', 'bands.1.dynamics.rangeDb', 0, -6]],
      [
        'Reach',
        ['tone', 'bands.0.dynamics.thresholdDbfs', -24, -40],
        ['tone', 'bands.1.dynamics.thresholdDbfs', -30, -46],
      ],
      ['Weight', ['tone', 'bands.2.gainDb', -1.5, 2.5]],
      loudness(-2, 7),
    ],
  ),
  written(
    ...(['Boomy mix, cleared', 'any', 'repair'] as const),
    'For a low end that swallows the rest: a dip around 200 Hz, and bass that gives way on its loudest notes.',
    [
      ['image', 'stereo', { monoBelow: true, monoUpperHz: 100 }],
      tone(
        { ...low(85, 0), dynamics: { thresholdDbfs: -24, rangeDb: -3, attackMs: 15, releaseMs: 150 } },
        bell(210, -1.5, 0.9),
        high(7000, 0.5),
      ),
      limiter({ inputGainDb: 3 }),
    ],
    [
      ['Boom', ['tone', 'bands.0.dynamics.rangeDb', -6, 0]],
      ['Mud', ['tone', 'bands.1.gainDb', -3, 0]],
      ['Top', ['tone', 'bands.2.gainDb', -1, 2]],
      loudness(-1, 7),
    ],
  ),
];
