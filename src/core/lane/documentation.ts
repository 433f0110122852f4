import type { z } from 'zod';
import { describe, type Quantity } from '../stages/definition';
import {
  bandCompression,
  bandDynamicsSettings,
  bandExpansion,
  bandLimiting,
  dynamicsBand,
} from '../stages/band-dynamics/settings';
import {
  CROSSOVER_PHASES,
  crossoverFrequency,
  DEFAULT_CROSSOVERS,
  MAX_BAND_COUNT,
  MAX_CROSSOVERS,
} from '../stages/bands/crossovers';
import { CLIP_CURVE_HELP, CLIP_CURVES } from '../stages/clipper/curves';
import { CLIP_LINK_HELP, CLIP_LINKS, clipperSettings } from '../stages/clipper/settings';
import { CIRCUIT_HELP, CIRCUITS, compressorSettings, DETECTORS, OPERATIONS } from '../stages/compressor/settings';
import { DE_ESSER_PARTS, deEsserSettings, DETECTIONS, REDUCTIONS } from '../stages/de-esser/settings';
import {
  bandDynamics,
  equalizerBand,
  equalizerSettings,
  MAX_BANDS,
  PARTS,
  PHASES,
  SHAPES,
  SLOPES,
} from '../stages/equalizer/settings';
import { STAGE_KINDS, STAGES, type StageKind } from '../stages/registry';
import {
  DETECTION_HELP,
  DETECTIONS as PEAK_DETECTIONS,
  EMPHASES,
  limiterSettings,
  RECOVERIES,
  RECOVERY_HELP,
} from '../stages/limiter/settings';
import {
  ALIASING_DB,
  OVERSAMPLING_WORK,
  OVERSAMPLING_FACTORS,
  OVERSAMPLING_HELP,
  OVERSAMPLING_PHASE_HELP,
  OVERSAMPLING_PHASES,
} from '../stages/oversampler';
import { CURVE_HELP, CURVES } from '../stages/saturation/curves';
import {
  bandAmount,
  bandDrive,
  MOVEMENTS,
  SATURATION_PARTS,
  saturationSettings,
  SPLITS,
} from '../stages/saturation/settings';
import { RESPONSES, roomSettings } from '../stages/room/settings';
import { bandWidth, MONO_SHAPES, MONO_SHAPE_HELP, stereoSettings } from '../stages/stereo/settings';
import { trimSettings } from '../stages/trim/settings';
import { LANE_SCHEMA, MAX_STAGES } from './schema';

const SCHEMAS: Record<StageKind, z.ZodObject> = {
  trim: trimSettings,
  equalizer: equalizerSettings,
  deEsser: deEsserSettings,
  compressor: compressorSettings,
  bandDynamics: bandDynamicsSettings,
  stereo: stereoSettings,
  room: roomSettings,
  saturation: saturationSettings,
  clipper: clipperSettings,
  limiter: limiterSettings,
};

function quantityOf(schema: z.ZodType): Quantity | null {
  return schema.meta()?.quantity === undefined ? null : describe(schema);
}

function row(name: string, schema: z.ZodType, others: Record<string, string>): string {
  const quantity = quantityOf(schema);
  if (!quantity) return `| \`${name}\` | ${others[name] ?? 'yes or no'} | | | |`;
  const { unit, min, max, default: normal, help } = quantity;
  return `| \`${name}\` | ${unit || 'number'} | ${min} … ${max} | ${normal} | ${help} |`;
}

function table(shape: Record<string, z.ZodType>, others: Record<string, string> = {}): string {
  const rows = Object.entries(shape).map(([name, schema]) => row(name, schema, others));
  return ['| setting | unit | range | default | what it does |', '| --- | --- | --- | --- | --- |', ...rows].join('\n');
}

const WORDS = (list: readonly (string | number)[]) => list.map((word) => `\`${word}\``).join(', ');
const choice = (list: readonly string[]) => `one of ${WORDS(list)}; \`${list[0]}\` when missing`;
const NO = 'yes or no (default)';
const list = <Word extends string>(words: readonly Word[], help: Record<Word, string>) =>
  words.map((word) => `- \`${word}\`: ${help[word]}`).join('\n');

/** What a setting is that has no range of its own, by kind. */
const OTHERS: Record<StageKind, Record<string, string>> = {
  trim: { linked: 'yes (default) or no' },
  equalizer: {
    bands: `up to ${MAX_BANDS} bands`,
    phase: choice(PHASES),
    state: 'which of the two states is heard: 1 (default) or 2',
    other: 'the other state: its `scalePercent` and `bands`; none when missing',
  },
  deEsser: { part: choice(DE_ESSER_PARTS), detection: choice(DETECTIONS), reduction: choice(REDUCTIONS) },
  compressor: {
    circuit: choice(CIRCUITS),
    operation: choice(OPERATIONS),
    detector: choice(DETECTORS),
    autoRelease: NO,
    makeupMatched: NO,
  },
  bandDynamics: { bands: `${MAX_BAND_COUNT} bands from the lowest up, those not split off included` },
  stereo: {
    swap: NO,
    invertLeft: NO,
    invertRight: NO,
    widthsPercent: `${MAX_BAND_COUNT} widths from the lowest band up; 100 when missing`,
    monoBelow: NO,
    monoShape: `one of ${WORDS(MONO_SHAPES)}; \`medium\` when missing`,
    sideHighPass: NO,
    sideSlopeDbPerOctave: `one of ${WORDS(SLOPES)}; 12 when missing`,
  },
  room: { response: choice(RESPONSES), file: 'name of the impulse response that was put in, for `file`' },
  saturation: {
    curve: choice(CURVES),
    part: choice(SATURATION_PARTS),
    toneUndone: 'yes (default): the tone behind undoes the one before; or no',
    movement: choice(MOVEMENTS),
    makeupMatched: 'yes (default) or no',
    split: choice(SPLITS),
    bandDrivesDb: `${MAX_BAND_COUNT} drives from the lowest band up; 0 when missing`,
    bandAmountsPercent: `${MAX_BAND_COUNT} amounts from the lowest band up; 100 when missing`,
    oversampling: 'see below; 2 while listening and 4 for the delivery when missing',
  },
  clipper: {
    curve: choice(CLIP_CURVES),
    link: choice(CLIP_LINKS),
    truePeaks: 'yes or no (default): a very short limiter holds true peaks at the ceiling too',
    oversampling: 'see below; 4 while listening and 8 for the delivery when missing',
  },
  limiter: {
    recovery: `one of ${WORDS(RECOVERIES)}; \`medium\` when missing`,
    emphasis: `how much transients are raised ahead: ${choice(EMPHASES)}`,
    detection: choice(PEAK_DETECTIONS),
    preLimited: NO,
    listenEven: 'yes or no (default): takes the input gain back out while listening, never in a delivery',
  },
};

/** The description of lane files in Markdown, made from the schemas that read them. */
export function laneFileDocumentation(): string {
  const kinds = STAGE_KINDS.map((kind) => {
    const { title, purpose, help } = STAGES[kind];
    return `## \`${kind}\`: ${title}\n\n${purpose}. ${help}\n\n${table(SCHEMAS[kind].shape, OTHERS[kind])}`;
  });
  const band = table(equalizerBand.shape, {
    shape: `one of ${WORDS(SHAPES)}`,
    on: 'yes (default) or no',
    part: `one of ${WORDS(PARTS)}; \`stereo\` when missing`,
    slopeDbPerOctave: `one of ${WORDS(SLOPES)}; 12 when missing`,
    dynamics: 'how the band moves with the level; still when missing',
  });
  return `# Lane files

A lane file holds the stages of a lane in their order, as JSON. The workspace saves and opens it; \`npm run render\` takes it.
This page is made from the schemas that read the file: \`npm run docs\`.

\`\`\`json
{ "schema": ${LANE_SCHEMA}, "stages": [{ "id": "a", "kind": "trim", "on": true, "settings": { "gainDb": -6 } }] }
\`\`\`

A stage is \`on\` when it is missing there. It may have a \`name\` of its own, up to 24 characters.

## Crossovers

\`crossovers\` stands beside \`stages\` and splits the lane into bands, for every stage that works by bands: 1 to
${MAX_CROSSOVERS} rising \`frequenciesHz\`, a third of an octave apart at least (${DEFAULT_CROSSOVERS.frequenciesHz.join(' and ')} Hz when missing), and a
\`phase\`, ${choice(CROSSOVER_PHASES)}. Linkwitz–Riley of the 4th order: 24 dB per octave, 6 dB down at the
crossover, with a flat sum. In linear phase the bands do not turn against each other; it costs latency and a faint ring
ahead of hits.

${table({ frequenciesHz: crossoverFrequency })}

## Stages

At most ${MAX_STAGES} stages, each with an \`id\` of its own. What is left out has its default; what is not listed here is refused.

${kinds.join('\n\n')}

### Bands of the equalizer

Gain works on bells, shelves and tilts, Q on bells, shelves, notches and band-passes, the slope on high-pass and low-pass.

${band}

### Dynamics of a band

Bells and shelves can move. The level is that of what lies in the band (beyond a shelf's midpoint), of the louder side where
the band works on both; a tone reads its peak. In linear phase a band that moves keeps minimum phase.

${table(bandDynamics.shape)}

### Circuits of the compressor

${list(CIRCUITS, CIRCUIT_HELP)}

The attack is the time to 63 % of a step whatever the onset; the release is the time to 63 % of the way back, to which the
attack adds. Automatic release: 2 · release / C², at most the release, with the crest factor C over 200 ms.

### Bands of the band dynamics

Each band has \`expansion\`, \`compression\` and \`limiting\`, which work one behind the other.

${table(dynamicsBand.shape, { on: 'yes (default) or no', expansion: 'see below', compression: 'see below', limiting: 'see below' })}

#### \`expansion\`

${table(bandExpansion.shape)}

#### \`compression\`

${table(bandCompression.shape)}

#### \`limiting\`

${table(bandLimiting.shape)}

### Width and mono bass of the stereo stage

${table({ widthsPercent: bandWidth })}

Shapes of the mono bass:

${list(MONO_SHAPES, MONO_SHAPE_HELP)}

### Oversampling

\`listening\` and \`delivery\`, each ${WORDS(OVERSAMPLING_FACTORS)}, the one for the delivery never lower; and a \`phase\`, ${choice(OVERSAMPLING_PHASES)}.
${OVERSAMPLING_HELP}

${list(OVERSAMPLING_PHASES, OVERSAMPLING_PHASE_HELP)}

What lies up to 20 kHz at 44.1 kHz passes within 0.0003 dB; what would fold back there is 89 dB down at least. Aliasing that
each factor leaves, as the highest line that is no harmonic, of a tone of 5 kHz at 44.1 kHz 12 dB into a hard clip:

| factor | aliasing | work against 2× |
| --- | --- | --- |
${OVERSAMPLING_FACTORS.map((factor) => `| ${factor} | ${ALIASING_DB[factor]} dB | ${OVERSAMPLING_WORK[factor]} |`).join('\n')}

### Curves of the saturation

${list(CURVES, CURVE_HELP)}

Bands, when \`split\` is \`bands\`:

${table({ bandDrivesDb: bandDrive, bandAmountsPercent: bandAmount })}

### Curves of the clipper

${list(CLIP_CURVES, CLIP_CURVE_HELP)}

Links of the output:

${list(CLIP_LINKS, CLIP_LINK_HELP)}

### Recovery and detection of the limiter

${list(RECOVERIES, RECOVERY_HELP)}

${list(PEAK_DETECTIONS, DETECTION_HELP)}
`;
}
