import { newStage, stageTitle, type Lane, type Stage } from '../lane/schema';
import { freeId, numberSetting, settingSchema, withSetting, withStageChanged } from '../lane/stage-edits';
import { traitsOf } from '../stages/registry';
import { describe } from '../stages/setting';
import type { Destination } from './destination';
import { truePeakExcessDb } from './true-peak-limit';

/** What can be moved so that a master meets a destination. */
export const MEANS = ['limiter', 'clipper', 'makeup', 'trim'] as const;
export type Means = (typeof MEANS)[number];

/** Loudness and peaks of a master through a lane. */
export interface LevelReading {
  integratedLufs: number;
  maxMomentaryLufs: number;
  maxShortTermLufs: number;
  truePeakDbtp: number;
}

/** The setting of a stage that is moved. */
export interface Handhold {
  means: Means;
  /** Null: a trim at the end of the lane that is not there yet. */
  stageId: string | null;
  setting: string;
  /** “Limiter, input gain” */
  title: string;
  value: number;
  min: number;
  max: number;
}

/** How a lane meets a destination, or comes nearest to it. */
export interface Meeting {
  lane: Lane;
  handhold: Handhold;
  /** The setting that was found, in dB. */
  value: number;
  /** The ceiling that the last limiter has now, in dBTP; null where it stays as it was. */
  ceilingDbtp: number | null;
  reading: LevelReading;
  /** dB that are still missing, below 0 for too many; 0 where nothing is. */
  missingDb: number;
  met: boolean;
  /** Why it is not met. */
  obstacle: 'range' | 'saturated' | 'peaks' | 'moments' | 'silence' | null;
  passes: number;
}

/** The finished file may be off by this, in LU; a solution aims for half of it. */
export const MEETING_LU = 0.05;
const CLOSE_LU = MEETING_LU / 2;
/** Passes over the music, at most. */
export const MOST_PASSES = 8;
/** dB of drive that give less loudness than this share of themselves give nothing worth having. */
const SATURATED = 0.03;
/** Longest step between two passes of what has a ceiling after it, in dB. */
const MOST_STEP_DB = 8;

/** To a hundredth of a dB: a lane's own numbers stay readable. */
const hundredth = (value: number) => Math.round(100 * value) / 100;

function handhold(means: Means, stage: Stage, setting: string): Handhold {
  const { min, max, title } = describe(settingSchema(stage, setting));
  const value = numberSetting(stage, setting);
  return { means, stageId: stage.id, setting, title: `${stageTitle(stage)}, ${title.toLowerCase()}`, value, min, max };
}

const hasCeiling = (stage: Stage) => traitsOf<Stage>(stage).ceilingDb !== undefined;
const driveInto = (stage: Stage, into: 'ceiling' | 'makeup') => stage.on && traitsOf<Stage>(stage).drive?.into === into;

/** The trim at the end of a lane: its last stage, when that is a linked trim, else a new one. */
export function trimAtEnd({ stages }: Lane): Handhold {
  const last = stages.findLast(({ on }) => on);
  if (last?.kind === 'trim' && last.settings.linked) return handhold('trim', last, 'gainDb');
  return { ...handhold('trim', newStage('trim', 'new'), 'gainDb'), stageId: null };
}

/** The input gain of a limiter. */
export function limiterHandhold(stage: Stage): Handhold {
  return handhold('limiter', stage, 'inputGainDb');
}

/** The limiter that makes a lane loud: the first of those that follow each other at its end; the last may be only a safety. */
function drivenLimiter(stages: readonly Stage[]): Stage | undefined {
  const on = stages.filter((stage) => stage.on);
  const isLimiter = (stage: Stage | undefined) =>
    stage !== undefined && driveInto(stage, 'ceiling') && hasCeiling(stage);
  let index = on.findLastIndex(isLimiter);
  while (isLimiter(on[index - 1])) index--;
  return on[index];
}

/** What of a lane can be moved to meet a destination, in the order in which it stands in {@link MEANS}. */
export function handholdsOf(lane: Lane): Handhold[] {
  const { stages } = lane;
  const found: [Means, Stage | undefined][] = [
    ['limiter', drivenLimiter(stages)],
    ['clipper', stages.findLast((stage) => driveInto(stage, 'ceiling') && !hasCeiling(stage))],
    ['makeup', stages.findLast((stage) => driveInto(stage, 'makeup'))],
  ];
  const driven = found.flatMap(([means, stage]) =>
    stage ? [handhold(means, stage, traitsOf<Stage>(stage).drive!.setting)] : [],
  );
  return [...driven, trimAtEnd(lane)];
}

/** A lane with a handhold at a value in dB. */
export function movedTo(lane: Lane, { stageId, setting }: Handhold, value: number): Lane {
  if (stageId !== null)
    return {
      ...lane,
      stages: withStageChanged(lane.stages, stageId, (stage) => withSetting(stage, setting, value)),
    };
  if (value === 0) return lane;
  const trim = newStage('trim', freeId(lane.stages, 'level'));
  trim.settings.gainDb = value;
  return { ...lane, stages: [...lane.stages, trim] };
}

/** The lane with the ceiling of its last limiter at most at a level in dBTP, and that ceiling when it had to be lowered. */
function withCeilingBelow(lane: Lane, maxDbtp: number): { lane: Lane; ceilingDbtp: number | null } {
  const stage = lane.stages.findLast((each) => each.on && each.kind === 'limiter');
  if (stage?.kind !== 'limiter' || stage.settings.ceilingDbtp <= maxDbtp) return { lane, ceilingDbtp: null };
  const ceilingDbtp = Math.floor(100 * maxDbtp + 1e-6) / 100;
  const stages = withStageChanged(lane.stages, stage.id, (each) => withSetting(each, 'ceilingDbtp', ceilingDbtp));
  return { lane: { ...lane, stages }, ceilingDbtp };
}

/**
 * dB by which a master must become louder, or quieter below 0, to meet what a destination asks of its loudness; and whether a
 * maximum of moments or passages keeps it from its target. Where only maxima are asked for, `upToMaximum` goes as far as they
 * allow; else what is quieter stays.
 */
function missingLoudness(
  { loudness, momentary, shortTerm }: Destination,
  reading: LevelReading,
  upToMaximum: boolean,
): { missingDb: number; held: boolean } {
  const { integratedLufs, maxMomentaryLufs, maxShortTermLufs } = reading;
  const wanted = loudness?.rule === 'target' ? loudness.lufs - integratedLufs : upToMaximum ? Infinity : 0;
  const maxima = [
    loudness?.rule === 'maximum' ? loudness.lufs - integratedLufs : Infinity,
    momentary ? momentary.maxLufs - maxMomentaryLufs : Infinity,
    shortTerm ? shortTerm.maxLufs - maxShortTermLufs : Infinity,
  ];
  const room = Math.min(...maxima);
  return {
    missingDb: Math.min(wanted, room),
    held: loudness?.rule === 'target' && room < wanted - loudness.toleranceLu,
  };
}

/** A value of the setting with what it gave. */
interface Try {
  value: number;
  missingDb: number;
}

/** The next value to try: by the slope of the last two, within what is known to be too little and too much. */
function nextValue(
  tries: readonly Try[],
  low: Try | null,
  high: Try | null,
  mostStepDb: number,
  firstSlope: number,
): number {
  const last = tries[tries.length - 1];
  const before = tries[tries.length - 2];
  // A dB of drive gives less than a dB of loudness where peaks are held.
  const slope = before ? (before.missingDb - last.missingDb) / (last.value - before.value) : firstSlope;
  const step = last.missingDb / Math.max(SATURATED, Math.min(1.5, slope));
  const value = last.value + Math.max(-mostStepDb, Math.min(mostStepDb, step));
  if (low && high && !(value > low.value && value < high.value)) return (low.value + high.value) / 2;
  return value;
}

/**
 * Solves what has to move so that a master meets a destination's loudness and true peak: by one handhold, in at most
 * {@link MOST_PASSES} passes of `measure`, which gives what the master of a lane comes to at the delivered rate. Where it
 * can't be met, the nearest is given, with the reason. `maxDbtp` is the destination's limit, or less where an encode asks for
 * it; `firstSlope` the loudness in dB that a dB is expected to give, before two passes tell.
 */
export async function meet(
  lane: Lane,
  destination: Destination,
  hold: Handhold,
  measure: (lane: Lane) => Promise<LevelReading>,
  maxDbtp = destination.truePeak.maxDbtp,
  firstSlope = 1,
): Promise<Meeting> {
  // A trim at the end moves the peaks with the rest.
  let { lane: base, ceilingDbtp }: ReturnType<typeof withCeilingBelow> =
    hold.means === 'trim' ? { lane, ceilingDbtp: null } : withCeilingBelow(lane, maxDbtp);
  let tooLoud = false;
  let tries: Try[] = [];
  let [low, high]: (Try | null)[] = [null, null];
  let value = hold.value;
  const mostStepDb = hold.means === 'trim' ? Infinity : MOST_STEP_DB;
  let best: Meeting | null = null;
  for (let passes = 1; passes <= MOST_PASSES; passes++) {
    const tried = movedTo(base, hold, value);
    const reading = await measure(tried);
    const { missingDb: wanted, held } = missingLoudness(destination, reading, tooLoud);
    tooLoud ||= wanted < 0;
    const excess = truePeakExcessDb(reading.truePeakDbtp, maxDbtp);
    const room = hold.means === 'trim' ? maxDbtp - reading.truePeakDbtp : Infinity;
    const missingDb = Math.min(wanted, room);
    const common = { lane: tried, handhold: hold, value, ceilingDbtp, reading, passes };
    if (!Number.isFinite(reading.integratedLufs)) return { ...common, missingDb: 0, met: false, obstacle: 'silence' };
    const reached = Math.abs(missingDb) <= CLOSE_LU;
    const meeting: Meeting = {
      ...common,
      missingDb: wanted,
      met: Math.abs(wanted) <= MEETING_LU && excess === 0 && !held,
      obstacle: excess > 0 || room < wanted - CLOSE_LU ? 'peaks' : held ? 'moments' : null,
    };
    const better = (a: Meeting, b: Meeting) =>
      a.met !== b.met ? a.met : Math.abs(a.missingDb) < Math.abs(b.missingDb) - 1e-9;
    if (!best || better(meeting, best)) best = meeting;
    best.passes = passes;
    if (reached && excess > 0 && hold.means !== 'trim') {
      // Something lets peaks pass the ceiling: what it lets pass is taken off, and the loudness is looked for again.
      const lowered = withCeilingBelow(base, (ceilingDbtp ?? maxDbtp) - excess);
      if (lowered.ceilingDbtp === null) break;
      ({ lane: base, ceilingDbtp } = lowered);
      tries = [];
      [low, high] = [null, null];
      continue;
    }
    if (reached) break;
    const before = tries[tries.length - 1];
    const now = { value, missingDb };
    if (before && Math.abs(before.missingDb - missingDb) < SATURATED * Math.abs(before.value - value)) {
      best.obstacle ??= 'saturated';
      break;
    }
    tries.push(now);
    if (missingDb > 0) low = now;
    else high = now;
    const next = hundredth(Math.max(hold.min, Math.min(hold.max, nextValue(tries, low, high, mostStepDb, firstSlope))));
    if (next === value) {
      if (value === hold.min || value === hold.max) best.obstacle ??= 'range';
      break;
    }
    value = next;
  }
  return best!;
}
