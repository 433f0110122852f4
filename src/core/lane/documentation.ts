import { MOST_HANDLES, REST_PERCENT } from '../house/schema';
import { z } from 'zod';
import { crossoversSchema, DEFAULT_CROSSOVERS, MAX_CROSSOVERS } from '../stages/bands/crossovers';
import { ALIASING_DB, OVERSAMPLING_FACTORS, OVERSAMPLING_HELP, OVERSAMPLING_WORK } from '../stages/oversampler';
import { described } from '../stages/setting';
import { FADE_SHAPES, LONGEST_FADE_SECONDS, LONGEST_SILENCE_SECONDS } from '../sequence/edges';
import { STAGE_KINDS, STAGES } from '../stages/registry';
import { LANE_SCHEMA, MAX_STAGES } from './schema';

/** A lane with one stage, for documentation. */
export const EXAMPLE_LANE = `{ "schema": ${LANE_SCHEMA}, "stages": [{ "id": "a", "kind": "trim", "on": true, "settings": { "gainDb": -6 } }] }`;

/** A schema without its default, its nullability and what checks it as a whole. */
function bare(schema: z.ZodType): z.ZodType {
  if (schema instanceof z.ZodDefault || schema instanceof z.ZodPrefault || schema instanceof z.ZodNullable)
    return bare(schema.def.innerType as z.ZodType);
  return schema;
}

/** The settings inside a setting: those of a group, or of each element of a list; null for a plain value. */
function inside(schema: z.ZodType): z.ZodObject | null {
  const plain = bare(schema);
  if (plain instanceof z.ZodObject) return plain;
  return plain instanceof z.ZodArray ? inside(plain.element as z.ZodType) : null;
}

const code = (value: unknown) => `\`${String(value)}\``;

/** What a setting may be, and its default. */
function values(schema: z.ZodType): [range: string, normal: string, help: string] {
  const { quantity, choice, toggle } = described(schema);
  if (quantity) {
    const { unit, min, max, default: normal, help } = quantity;
    return [`${min} … ${max}${unit && ` ${unit}`}`, String(normal), help];
  }
  if (choice)
    return [
      choice.options.map(({ value }) => code(value)).join(', '),
      choice.default === undefined ? '' : code(choice.default),
      choice.help,
    ];
  if (toggle) return ['`true`, `false`', code(toggle.default), toggle.help];
  const plain = bare(schema);
  if (plain instanceof z.ZodArray) {
    const [range, , help] = values(plain.element as z.ZodType);
    return [inside(schema) ? 'a list, each as below' : `a list, each ${range}`, '', help];
  }
  if (plain instanceof z.ZodObject) return ['see below', '', ''];
  return schema instanceof z.ZodDefault && schema.def.innerType instanceof z.ZodNullable
    ? ['a name, or `null`', '`null`', '']
    : ['', '', ''];
}

function table(shape: Record<string, z.ZodType>): string {
  const rows = Object.entries(shape).map(([name, schema]) => `| ${code(name)} | ${values(schema).join(' | ')} |`);
  return ['| setting | values | default | what it does |', '| --- | --- | --- | --- |', ...rows].join('\n');
}

/** The options of a choice that explain themselves. */
function options(name: string, schema: z.ZodType): string[] {
  const explained = (described(schema).choice?.options ?? []).filter(({ help }) => help !== undefined);
  if (explained.length === 0) return [];
  return [
    `${code(name)}:\n\n${explained.map(({ value, title, help }) => `- ${code(value)} (${title}): ${help}`).join('\n')}`,
  ];
}

/** Table, options and groups of a set of settings. A group that stands in another place too is described once. */
function sections(path: string, shape: Record<string, z.ZodType>, known: Set<z.ZodType>): string[] {
  const entries = Object.entries(shape);
  return [
    table(shape),
    ...entries.flatMap(([name, schema]) => options(name, schema)),
    ...entries.flatMap(([name, schema]) => {
      const group = inside(schema);
      if (!group || known.has(group)) return [];
      known.add(group);
      const full = `${path}.${name}`;
      return [`### ${code(full)}`, ...sections(full, group.shape, known)];
    }),
  ];
}

/** The description of lane files in Markdown, made from the schemas that read them. */
export function laneFileDocumentation(): string {
  const known = new Set<z.ZodType>();
  const kinds = STAGE_KINDS.flatMap((kind) => {
    const { title, summary, help, notes, schema } = STAGES[kind];
    const { shape } = schema as unknown as { shape: Record<string, z.ZodType> };
    known.add(schema);
    return [
      `## ${code(kind)}: ${title}`,
      `${summary}. ${help}`,
      ...(notes ? [notes] : []),
      ...sections(kind, shape, known),
    ];
  });
  const crossovers = bare(crossoversSchema) as z.ZodObject;
  return `${[
    '# Lane files',
    'A lane file holds the stages of a lane in order, as JSON. The workspace saves and opens it; `npm run render` takes it. This page is made from the schemas that read the file: `npm run docs`.',
    `\`\`\`json\n${EXAMPLE_LANE}\n\`\`\``,
    'A stage is `on` when that is left out. It may have its own `name`, up to 24 characters.',
    '## Crossovers',
    `\`crossovers\` goes next to \`stages\` and splits the lane into bands, for every stage that works by bands: 1 to ${MAX_CROSSOVERS} rising frequencies, at least a third of an octave apart (${DEFAULT_CROSSOVERS.frequenciesHz.join(' and ')} Hz when left out). Linkwitz–Riley of the 4th order: 24 dB/octave, 6 dB down at the crossover, with a flat sum.`,
    ...sections('crossovers', crossovers.shape, known),
    '## Stages',
    `At most ${MAX_STAGES} stages, each with its own \`id\`. A setting that is left out has its default; one that is not listed here is refused.`,
    ...kinds,
    '## Handles',
    `\`house\`, beside the stages, holds overall controls, where a lane has them: up to ${MOST_HANDLES} \`handles\`, each with a \`name\`, a \`percent\` (${REST_PERCENT} leaves everything as it was saved) and \`moves\`. A move names a \`stage\` by its id and a \`control\` in it by its path (\`bands.0.gainDb\`), with its values \`from\` at 0, \`rest\` at ${REST_PERCENT} and \`to\` at 100 %. \`amountPercent\` (0 to 150) moves the controls in \`scales\` between \`neutral\` and \`rest\`. \`name\` is the house lane that the lane began from. A house lane file has the lane in \`lane\`, with \`schema\`, \`name\`, \`sentence\`, \`material\` and \`purpose\` beside it.`,
    '## Edges',
    `\`edges\`, beside the stages, says where the track starts and ends in its mix: \`startSeconds\` and \`endSeconds\` (\`null\`: where the mix ends), \`fadeIn\` and \`fadeOut\` with \`seconds\` (up to ${LONGEST_FADE_SECONDS}) and \`shape\` (${FADE_SHAPES.map(code).join(', ')}), \`silenceBeforeSeconds\` and \`silenceAfterSeconds\` (up to ${LONGEST_SILENCE_SECONDS}). Left out, a file begins and ends with its mix. They are applied to the mix before the first stage; what rings on in a room or a linear-phase filter after the end is kept until it is below −96 dBFS, for at most 10 s, and faded. A lane that is opened on another track leaves its edges behind.`,
    '## Oversampling',
    `${OVERSAMPLING_HELP} Up to 20 kHz at 44.1 kHz the filters pass everything within 0.0003 dB; what would fold back there is at least 89 dB down. Aliasing at each factor, as the highest line that is not a harmonic, of a 5 kHz tone at 44.1 kHz driven 12 dB into a hard clip:`,
    [
      '| factor | aliasing | CPU use against 2× |',
      '| --- | --- | --- |',
      ...OVERSAMPLING_FACTORS.map(
        (factor) => `| ${factor} | ${ALIASING_DB[factor]} dB | ${OVERSAMPLING_WORK[factor]} |`,
      ),
    ].join('\n'),
  ].join('\n\n')}\n`;
}
