import { z } from 'zod';
import { laneSchema } from '../lane/schema';

/** Version of a house lane's saved form; the lane in it migrates by itself. */
export const HOUSE_LANE_SCHEMA = 1;

/** What a house lane is for. */
export const MATERIALS = {
  any: 'Any material',
  band: 'Band',
  acoustic: 'Acoustic',
  electronic: 'Electronic',
  orchestral: 'Orchestra and choir',
  voice: 'Voice',
} as const;
export const PURPOSES = {
  finish: 'Finish',
  loud: 'Loud',
  gentle: 'Keep the dynamics',
  repair: 'Mend',
  speech: 'Broadcast',
} as const;
export type Material = keyof typeof MATERIALS;
export type Purpose = keyof typeof PURPOSES;

const keys = <Key extends string>(of: Record<Key, string>) => Object.keys(of) as [Key, ...Key[]];

/** A lane to begin from, with its handles: what an account keeps, and what a house lane file holds. */
export const houseLaneSchema = z.strictObject({
  schema: z.literal(
    HOUSE_LANE_SCHEMA,
    `This house lane was saved in another form than version ${HOUSE_LANE_SCHEMA}: open it with a newer Copper Lane.`,
  ),
  name: z.string().trim().min(1, 'Give the house lane a name.').max(60, 'The name can have up to 60 characters.'),
  /** What it does for which material, in a sentence. */
  sentence: z.string().trim().max(240, 'The sentence can have up to 240 characters.').default(''),
  material: z.enum(keys(MATERIALS)).default('any'),
  purpose: z.enum(keys(PURPOSES)).default('finish'),
  lane: laneSchema,
});
export type HouseLane = z.infer<typeof houseLaneSchema>;

/** A house lane from a file of any version. Throws an Error with a sentence. */
export function parseHouseLane(data: unknown): HouseLane {
  const result = houseLaneSchema.safeParse(data);
  if (result.success) return result.data;
  throw new Error(`The house lane can’t be read. ${result.error.issues.map(({ message }) => message).join(' ')}`);
}

/** Those whose name, sentence, material, purpose or handles have every word that is looked for. */
export function foundAmong<Each extends Pick<HouseLane, 'name' | 'sentence' | 'material' | 'purpose' | 'lane'>>(
  lanes: readonly Each[],
  words: string,
): Each[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  return lanes.filter(({ name, sentence, material, purpose, lane }) => {
    const handles = lane.house?.handles.map((handle) => handle.name) ?? [];
    const text = [name, sentence, MATERIALS[material], PURPOSES[purpose], ...handles].join(' ').toLowerCase();
    return wanted.every((word) => text.includes(word));
  });
}
