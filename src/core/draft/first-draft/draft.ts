import type { Destination } from '../../deliver/destination';
import { limiterHandhold, meet, trimAtEnd, type Handhold, type LevelReading, type Meeting } from '../../deliver/meet';
import { truePeakExcessDb } from '../../deliver/true-peak-limit';
import { EMPTY_LANE, type Lane, type Stage } from '../../lane/schema';
import { withSetting } from '../../lane/stage-edits';
import { figure } from '../../measure/figure';
import { balance } from './balance';
import { clipper } from './clipper';
import { compression } from './compression';
import { deEssing } from './de-essing';
import { earlyLimiter } from './early-limiter';
import { level } from './level';
import { limiter } from './limiter';
import { lowEnd } from './low-end';
import type { MixReading } from './mix-reading';
import { monoBass } from './mono-bass';
import { choiceOf, intensityTitle, limitsAt, type DraftStepId, type DraftWishes } from './request';
import { safety } from './safety';
import { saturation } from './saturation';
import {
  tenth,
  type DraftContext,
  type DraftReference,
  type DraftRule,
  type DraftStep,
  type RuleOutcome,
} from './step';

/** In the order of the lane. */
const RULES: readonly DraftRule[] = [
  ...[level, balance, monoBass, lowEnd, deEssing, compression, saturation, earlyLimiter, clipper, limiter, safety],
];
/** Only where colour is asked for. */
const COLOUR: ReadonlySet<DraftStepId> = new Set(['saturation', 'earlyLimiter']);
/** Halvings in which a threshold is found at most, over some 60 dB, and how near below what is wanted is near enough, in dB. */
const HALVINGS = 9;
const NEAR_DB = 0.15;
/** Runs of the loudest passage in which the limiter comes near its loudness. */
const APPROACHES = 3;

/** The loudest passage after some stages. */
export interface PassageRun {
  integratedLufs: number;
  truePeakDbtp: number;
  /** dB that each stage takes at most. */
  reductionsDb: number[];
}

/** How a draft has music run through stages. */
export interface DraftRuns {
  passage(stages: readonly Stage[]): Promise<PassageRun>;
  /** The whole track; only stages from the index `moved` on differ between two runs. */
  whole(lane: Lane, moved: number): Promise<LevelReading>;
}

/** A lane that was drafted, with what led to it. */
export interface Draft {
  lane: Lane;
  steps: DraftStep[];
  /** How it meets the destination, or why not quite. */
  meeting: Pick<Meeting, 'met' | 'missingDb' | 'obstacle' | 'reading' | 'passes'>;
  /** LUFS that it was solved to. */
  aimLufs: number;
  /** Levels of the loudest passage at each joint of the lane. */
  joints: Pick<PassageRun, 'integratedLufs' | 'truePeakDbtp'>[];
}

/** The destination with a loudness to solve for: its own, else by intensity but within its maximum. */
function aimed(destination: Destination, byIntensityLufs: number): Destination & { loudness: { lufs: number } } {
  const { loudness } = destination;
  if (loudness?.rule === 'target') return { ...destination, loudness };
  const lufs = Math.min(byIntensityLufs, loudness?.lufs ?? 0);
  return { ...destination, loudness: { rule: 'target', lufs, toleranceLu: 0.5, reason: '', source: '' } };
}

/** Whether a mix has the loudness and the peaks that a destination asks for. */
function meetsAsItIs(mix: MixReading, { loudness, truePeak, momentary, shortTerm }: Destination): boolean {
  if (loudness?.rule !== 'target') return false;
  return (
    Math.abs(mix.integratedLufs - loudness.lufs) <= loudness.toleranceLu &&
    truePeakExcessDb(mix.truePeakDbtp, truePeak.maxDbtp) === 0 &&
    mix.maxMomentaryLufs <= (momentary?.maxLufs ?? Infinity) &&
    mix.maxShortTermLufs <= (shortTerm?.maxLufs ?? Infinity)
  );
}

/** The stage at the threshold at which it takes what is wanted; more reduction the lower it is. */
async function found(
  { reductionDb, minDb, maxDb, at }: NonNullable<RuleOutcome['seeks']>,
  before: readonly Stage[],
  runs: DraftRuns,
): Promise<Stage> {
  let [low, high] = [minDb, maxDb];
  for (let i = 0; i < HALVINGS; i++) {
    const middle = tenth((low + high) / 2);
    const { reductionsDb } = await runs.passage([...before, at(middle)]);
    const takes = reductionsDb.at(-1) ?? 0;
    if (takes > reductionDb) low = middle;
    else high = middle;
    if (takes <= reductionDb && takes > reductionDb - NEAR_DB) break;
  }
  // The higher end takes less than is wanted, never more.
  return at(high);
}

/**
 * A limiter's handhold near where the loudest passage gains as much as the whole track has to, and the loudness in dB that a dB of
 * drive gives there: a start for the solver.
 */
async function approached(
  stages: readonly Stage[],
  wantedLufs: number,
  runs: DraftRuns,
): Promise<{ hold: Handhold; slope: number }> {
  const limiterStage = stages[stages.length - 1];
  const hold = limiterHandhold(limiterStage);
  let { value } = hold;
  let before: { value: number; lufs: number } | null = null;
  let slope = 1;
  for (let i = 0; i < APPROACHES; i++) {
    const { integratedLufs: lufs } = await runs.passage([
      ...stages.slice(0, -1),
      withSetting(limiterStage, hold.setting, value),
    ]);
    if (before && before.value !== value)
      slope = Math.max(0.2, Math.min(1, (lufs - before.lufs) / (value - before.value)));
    before = { value, lufs };
    const next = value + (wantedLufs - lufs) / slope;
    value = Math.max(hold.min, Math.min(hold.max, Math.round(100 * next) / 100));
  }
  return { hold: { ...hold, value }, slope };
}

/**
 * Drafts a lane: by rules, one step each, then solved so that the whole track meets the destination. The same mix and wishes
 * give the same draft.
 */
export async function firstDraft(
  mix: MixReading,
  destination: Destination,
  wishes: DraftWishes,
  runs: DraftRuns,
  reference: DraftReference | null = null,
): Promise<Draft> {
  const limits = limitsAt(wishes.intensityPercent);
  const target = aimed(destination, limits.loudnessLufs);
  const { character, intensityPercent } = wishes;
  const common = {
    ...{ mix, destination, limits, intensityPercent, character, reference },
    aim: { lufs: target.loudness.lufs, ceilingDbtp: destination.truePeak.maxDbtp },
    meets: meetsAsItIs(mix, destination),
  };
  const bare = await runs.passage([]);
  const joints = [bare];
  const stages: Stage[] = [];
  const steps: DraftStep[] = [];
  let here = bare;
  for (const rule of RULES) {
    if (COLOUR.has(rule.id) && character !== 'coloured') continue;
    const { on, strengthPercent } = choiceOf(wishes, rule.id);
    const entering = {
      peakDbtp: here.truePeakDbtp,
      integratedLufs: mix.integratedLufs + here.integratedLufs - bare.integratedLufs,
    };
    const context: DraftContext = { ...common, entering, strength: 1 };
    const asIs = rule.decide(context);
    // What is weakened to nothing is still there to be strengthened again.
    const needed = asIs.stage !== null;
    const weakened = needed && strengthPercent !== 100;
    const { reason, stage, seeks } = weakened ? rule.decide({ ...context, strength: strengthPercent / 100 }) : asIs;
    const taken = on && stage ? (seeks ? await found(seeks, stages, runs) : stage) : null;
    steps.push({
      ...{ id: rule.id, reason, needed, on, strengthPercent },
      ...{ stageId: taken?.id ?? null, takesDb: null },
    });
    if (!taken) continue;
    stages.push(taken);
    here = await runs.passage(stages);
    joints.push(here);
  }
  const drafted: Lane = { ...EMPTY_LANE, stages };
  const moved = stages.findIndex(({ id }) => id === 'limiter');
  const wantedLufs = bare.integratedLufs + target.loudness.lufs - mix.integratedLufs;
  const { hold, slope } =
    moved < 0 ? { hold: trimAtEnd(drafted), slope: 1 } : await approached(stages.slice(0, moved + 1), wantedLufs, runs);
  const whole = (lane: Lane) => runs.whole(lane, moved < 0 ? stages.length : moved);
  const solved = await meet(drafted, target, hold, whole, destination.truePeak.maxDbtp, slope);
  // What was solved is levelled again.
  joints.length = (moved < 0 ? stages.length : moved) + 1;
  for (let end = joints.length; end <= solved.lane.stages.length; end++)
    joints.push(await runs.passage(solved.lane.stages.slice(0, end)));
  return explained(solved, steps, target.loudness.lufs, joints, wishes);
}

/** A solved draft with what its stages take, and what the limiter came to. */
function explained(
  solved: Meeting,
  steps: readonly DraftStep[],
  aimLufs: number,
  joints: readonly PassageRun[],
  wishes: DraftWishes,
): Draft {
  const { lane, met, missingDb, obstacle, reading, passes } = solved;
  const { limiterDb } = limitsAt(wishes.intensityPercent);
  const taking = steps.map((step): DraftStep => {
    const index = lane.stages.findIndex(({ id }) => id === step.stageId);
    if (index < 0) return step;
    const takesDb = joints[joints.length - 1].reductionsDb[index];
    if (step.id !== 'limiter') return { ...step, takesDb };
    const result = `gives ${figure(reading.integratedLufs)} LUFS at ${figure(reading.truePeakDbtp)} dBTP and takes up to ${figure(takesDb)} dB in the loudest passage`;
    const much =
      takesDb > limiterDb + 0.05
        ? `: more than the ${figure(limiterDb)} dB of “${intensityTitle(wishes.intensityPercent)}”. A higher intensity lets the stages before it take a part; a quieter destination costs less`
        : `, of ${figure(limiterDb)} dB that this intensity allows`;
    return { ...step, takesDb, reason: `${step.reason.slice(0, -1)}; that ${result}${much}.` };
  });
  return {
    ...{ lane, steps: taking, aimLufs, meeting: { met, missingDb, obstacle, reading, passes } },
    joints: joints.map(({ integratedLufs, truePeakDbtp }) => ({ integratedLufs, truePeakDbtp })),
  };
}
