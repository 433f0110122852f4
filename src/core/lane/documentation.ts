import type { z } from 'zod';
import { describe, type Quantity } from '../stages/definition';
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
import { limiterSettings } from '../stages/limiter/settings';
import { trimSettings } from '../stages/trim/settings';
import { LANE_SCHEMA, MAX_STAGES } from './schema';

const SCHEMAS: Record<StageKind, z.ZodObject> = {
  trim: trimSettings,
  equalizer: equalizerSettings,
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

/** The description of lane files in Markdown, made from the schemas that read them. */
export function laneFileDocumentation(): string {
  const kinds = STAGE_KINDS.map((kind) => {
    const { title, purpose, help } = STAGES[kind];
    const settings = table(SCHEMAS[kind].shape, {
      bands: `up to ${MAX_BANDS} bands`,
      phase: `one of ${WORDS(PHASES)}; \`minimum\` when missing`,
      state: 'which of the two states is heard: 1 (default) or 2',
      other: 'the other state: its `scalePercent` and `bands`; none when missing',
      linked: 'yes (default) or no',
    });
    return `## \`${kind}\`: ${title}\n\n${purpose}. ${help}\n\n${settings}`;
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

At most ${MAX_STAGES} stages, each with an \`id\` of its own. What is left out has its default; what is not listed here is refused.

${kinds.join('\n\n')}

### Bands of the equalizer

Gain works on bells, shelves and tilts, Q on bells, shelves, notches and band-passes, the slope on high-pass and low-pass.

${band}

### Dynamics of a band

Bells and shelves can move. The level is that of what lies in the band (beyond a shelf's midpoint), of the louder side where
the band works on both; a tone reads its peak. In linear phase a band that moves keeps minimum phase.

${table(bandDynamics.shape)}
`;
}
