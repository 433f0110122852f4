import { z } from 'zod';
import { bandDynamicsSettings } from '../stages/band-dynamics/settings';
import { crossoversSchema, DEFAULT_CROSSOVERS } from '../stages/bands/crossovers';
import { compressorSettings } from '../stages/compressor/settings';
import { deEsserSettings } from '../stages/de-esser/settings';
import { equalizerSettings } from '../stages/equalizer/settings';
import { limiterSettings } from '../stages/limiter/settings';
import { clipperSettings } from '../stages/clipper/settings';
import { STAGES, type StageKind } from '../stages/registry';
import { roomSettings } from '../stages/room/settings';
import { saturationSettings } from '../stages/saturation/settings';
import { stereoSettings } from '../stages/stereo/settings';
import { trimSettings } from '../stages/trim/settings';

/** Version of the lane's saved form; older ones are migrated by {@link parseLane}. */
export const LANE_SCHEMA = 5;
export const MAX_STAGES = 12;

/** A stage's own name, as “Safety” of a limiter; empty stands for the title of its kind. */
export const stageName = z.string().trim().max(24, 'The name of a stage may have 24 characters.');

const common = { id: z.string().min(1).max(64), name: stageName.optional(), on: z.boolean().default(true) };

export const stageSchema = z.discriminatedUnion('kind', [
  z.strictObject({ ...common, kind: z.literal('trim'), settings: trimSettings }),
  z.strictObject({ ...common, kind: z.literal('equalizer'), settings: equalizerSettings }),
  z.strictObject({ ...common, kind: z.literal('deEsser'), settings: deEsserSettings }),
  z.strictObject({ ...common, kind: z.literal('compressor'), settings: compressorSettings }),
  z.strictObject({ ...common, kind: z.literal('bandDynamics'), settings: bandDynamicsSettings }),
  z.strictObject({ ...common, kind: z.literal('stereo'), settings: stereoSettings }),
  z.strictObject({ ...common, kind: z.literal('room'), settings: roomSettings }),
  z.strictObject({ ...common, kind: z.literal('saturation'), settings: saturationSettings }),
  z.strictObject({ ...common, kind: z.literal('clipper'), settings: clipperSettings }),
  z.strictObject({ ...common, kind: z.literal('limiter'), settings: limiterSettings }),
]);

const currentLane = z
  .strictObject({
    schema: z.literal(
      LANE_SCHEMA,
      `This lane was saved in another form than version ${LANE_SCHEMA}: open it with a newer Copper Lane.`,
    ),
    crossovers: crossoversSchema.prefault({}),
    stages: z.array(stageSchema).max(MAX_STAGES, `A lane has at most ${MAX_STAGES} stages.`),
  })
  .refine(
    ({ stages }) => new Set(stages.map(({ id }) => id)).size === stages.length,
    'Two stages of the lane have the same id.',
  );

/**
 * How a lane of each earlier version becomes one of the next. From 1 to 2 only settings with defaults were added, from 2
 * to 3 kinds of stages and the crossovers, from 3 to 4 kinds of stages and settings of the limiter, which have defaults too,
 * from 4 to 5 names of stages; older programs would refuse them.
 */
const MIGRATIONS = new Map<unknown, (lane: object) => object>([
  [1, (lane) => ({ ...lane, schema: 2 })],
  [2, (lane) => ({ ...lane, schema: 3 })],
  [3, (lane) => ({ ...lane, schema: 4 })],
  [4, (lane) => ({ ...lane, schema: 5 })],
]);

function migrated(data: unknown): unknown {
  let lane = data;
  // Each migration leads to the next version: there are no more steps than migrations, whatever the data says.
  for (let step = 0; step < MIGRATIONS.size; step++) {
    if (lane === null || typeof lane !== 'object' || !Object.hasOwn(lane, 'schema')) break;
    const migrate = MIGRATIONS.get((lane as { schema: unknown }).schema);
    if (!migrate) break;
    lane = migrate(lane);
  }
  return lane;
}

/** A lane of any version, as one of the present version. */
export const laneSchema = z.preprocess(migrated, currentLane);

/** One stage of a lane as data. */
export type Stage = z.infer<typeof stageSchema>;
/** An ordered list of stages as data: what a version saves and a lane file holds. */
export type Lane = z.infer<typeof laneSchema>;

export const EMPTY_LANE: Lane = { schema: LANE_SCHEMA, crossovers: DEFAULT_CROSSOVERS, stages: [] };

/** A saved lane of any version, checked, with defaults filled in. Throws an Error with one sentence for each problem. */
export function parseLane(data: unknown): Lane {
  const result = laneSchema.safeParse(data);
  if (result.success) return result.data;
  const problems = result.error.issues.map(({ path, message }) =>
    path.length > 0 ? `${path.join('.')}: ${message}` : message,
  );
  throw new Error(`The lane cannot be read. ${problems.join(' ')}`);
}

/** What a stage is called: by its own name, else by the title of its kind. */
export function stageTitle({ name, kind }: Pick<Stage, 'name' | 'kind'>): string {
  return name || STAGES[kind].title;
}

/** A new stage of a kind with its default settings. */
export function newStage(kind: StageKind, id: string): Stage {
  return { id, kind, on: true, settings: STAGES[kind].schema.parse({}) } as Stage;
}
