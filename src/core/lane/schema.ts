import { z } from 'zod';
import type { SavedStage } from '../stages/definition';
import { alternativesSchema, type Alternative } from './alternatives';
import { crossoversSchema, DEFAULT_CROSSOVERS } from '../stages/bands/crossovers';
import { houseSchema } from '../house/schema';
import { edgesSchema } from '../sequence/edges';
import { STAGE_KINDS, STAGES, type StageKind, type StageSettings } from '../stages/registry';

/** Version of the lane's saved form; older ones are migrated by {@link parseLane}. */
export const LANE_SCHEMA = 9;
export const MAX_STAGES = 12;

/** A stage's own name, such as “Safety” for a limiter; empty stands for the title of its kind. */
export const stageName = z.string().trim().max(24, 'A stage name can have up to 24 characters.');

/** One stage of a lane as data. */
export type Stage = {
  [Kind in StageKind]: {
    id: string;
    name?: string;
    on: boolean;
    kind: Kind;
    settings: StageSettings[Kind];
    /** Several sets of settings, of which one is heard; left out where there is one. */
    alternatives?: Alternative<StageSettings[Kind]>[];
  };
}[StageKind];

const common = { id: z.string().min(1).max(64), name: stageName.optional(), on: z.boolean().default(true) };

const [firstKind, ...otherKinds] = STAGE_KINDS.map((kind) =>
  z.strictObject({
    ...common,
    kind: z.literal(kind),
    settings: STAGES[kind].schema,
    alternatives: alternativesSchema(STAGES[kind].schema as z.ZodType).optional(),
  }),
);

const stageSchema = z.discriminatedUnion('kind', [firstKind, ...otherKinds]) as unknown as z.ZodType<Stage>;

const currentLane = z
  .strictObject({
    schema: z.literal(
      LANE_SCHEMA,
      `This lane was saved in another form than version ${LANE_SCHEMA}: open it with a newer Copper Lane.`,
    ),
    crossovers: crossoversSchema.prefault({}),
    stages: z.array(stageSchema).max(MAX_STAGES, `A lane has at most ${MAX_STAGES} stages.`),
    /** Overall controls. */
    house: houseSchema.optional(),
    /** Where the track starts and ends in its mix; left out: with the mix. */
    edges: edgesSchema.optional(),
  })
  .refine(
    ({ stages }) => new Set(stages.map(({ id }) => id)).size === stages.length,
    'Two stages of the lane have the same id.',
  );

const isObject = (data: unknown): data is Record<string, unknown> =>
  data !== null && typeof data === 'object' && !Array.isArray(data);

/** A saved stage in the form of the next lane schema, as its kind migrates it. */
function migratedStage(stage: unknown, from: number): unknown {
  if (!isObject(stage) || !isObject(stage.settings)) return stage;
  const kind = STAGE_KINDS.find((each) => each === stage.kind);
  if (!kind) return stage;
  const { migrations, stageMigrations } = STAGES[kind];
  const migrate = migrations?.[from];
  const settled = migrate ? { ...stage, settings: migrate(stage.settings) } : (stage as SavedStage);
  return stageMigrations?.[from]?.(settled) ?? settled;
}

/** A lane of any version as one of the present version, unless it can't be read as any; nothing is checked yet. */
function migrated(data: unknown): unknown {
  if (!isObject(data) || !Object.hasOwn(data, 'schema')) return data;
  const { schema, stages } = data;
  if (typeof schema !== 'number' || !Number.isInteger(schema) || schema < 1 || schema >= LANE_SCHEMA) return data;
  let list = stages;
  for (let from = schema; from < LANE_SCHEMA && Array.isArray(list); from++)
    list = list.map((stage) => migratedStage(stage, from));
  return { ...data, schema: LANE_SCHEMA, stages: list };
}

/** A lane of any version, as one of the present version. */
export const laneSchema = z.preprocess(migrated, currentLane);

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
  throw new Error(`The lane can’t be read. ${problems.join(' ')}`);
}

/** What a stage is called: its own name, else the title of its kind. */
export function stageTitle({ name, kind }: Pick<Stage, 'name' | 'kind'>): string {
  return name || STAGES[kind].title;
}

/** A new stage of a kind with its default settings. */
export function newStage<Kind extends StageKind>(kind: Kind, id: string): Extract<Stage, { kind: Kind }> {
  return { id, kind, on: true, settings: STAGES[kind].schema.parse({}) } as never;
}
