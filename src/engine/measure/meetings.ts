import type { Destination } from '../../core/deliver/destination';
import { handholdsOf, meet, movedTo, type Handhold, type LevelReading, type Meeting } from '../../core/deliver/meet';
import { Kernels } from '../../core/kernels/host';
import type { Lane } from '../../core/lane/schema';
import { RATTLE_DB } from '../../core/measure/distortion';
import type { ImpulseResponse } from '../../core/stages/definition';
import { addedDistortionDb } from './added-distortion';
import { JointWatch } from './joint-watch';
import { LaneMeasurer } from './lane-measurer';
import { LevelPasses } from './level-passes';
import type { Audio, Measurement, Span } from './measurement';

/** Seconds before and after the loudest passage that are run with it: what rings into it, and what its stages look ahead. */
const LEAD_SECONDS = 1;
/** Distortion of a master above this, against the music, is heard on exposed material (our own judgement, no source). */
const CLEAN_DB = -40;
/** A dB of drive that gives less loudness than this costs more than it gives (our own judgement, no source). */
const WORTH_LU = 0.7;
/** Loudness range in LU above which the loudest passage says too little of the whole: its gates take other blocks (our own judgement, no source). */
const WIDE_LU = 8;
/** How far around the present value effortless loudness is looked for, in dB, and how closely in steps of halving. */
const AROUND_DB = 12;
const HALVINGS = 5;

/** What loudness costs in the loudest passage. */
export interface Cost {
  plrLu: number;
  /** dB of the most that any stage with gain reduction takes. */
  reductionDb: number;
  /** dB of all that was added, and of that below 300 Hz, against the music; −infinity for nothing. */
  distortionDb: number;
  lowDb: number;
}

/** What a handhold would come to, estimated from the loudest passage. */
export interface Proposal {
  hold: Handhold;
  value: number;
  met: boolean;
  /** Of the whole track. */
  reading: LevelReading;
  cost: Cost;
}

/** The drive in dB up to which loudness costs little, and the loudness of the whole track there. */
export interface Effortless {
  hold: Handhold;
  value: number;
  integratedLufs: number;
}

function costOf(measurement: Measurement): Cost {
  const { master, gainReduction, distortions } = measurement;
  return {
    plrLu: master.plrLu,
    reductionDb: gainReduction.reduce((most, trace) => trace?.reduce((a, b) => Math.max(a, b), most) ?? most, 0),
    distortionDb: addedDistortionDb(measurement),
    lowDb: Math.max(-Infinity, ...distortions.map((each) => each?.added?.lowDb ?? -Infinity)),
  };
}

/** Finds how lanes of one mix meet destinations: what it costs from the loudest passage, the solution from all of it. */
export class Meetings {
  private readonly passage: LaneMeasurer;
  private readonly passageAudio: Audio;

  constructor(
    private readonly audio: Audio,
    loudest: Span,
    private readonly impulses: ReadonlyMap<string, ImpulseResponse>,
    private readonly turn: () => Promise<void> = () => Promise.resolve(),
  ) {
    const { left, right, sampleRate } = audio;
    const lead = Math.round(LEAD_SECONDS * sampleRate);
    const from = Math.max(0, loudest.start - lead);
    const to = Math.min(left.length, loudest.end + lead);
    this.passageAudio = { left: left.subarray(from, to), right: right.subarray(from, to), sampleRate };
    this.passage = new LaneMeasurer(this.passageAudio, {
      loudest: { start: loudest.start - from, end: loudest.end - from },
    });
    const kernels = new Kernels();
    this.passage.watcher = (plan) => new JointWatch(plan, kernels.cleared());
    for (const [name, impulse] of impulses) this.passage.impulses.set(name, impulse);
  }

  /**
   * What each handhold would come to, those that meet the destination first and the cleanest of them before the others: from
   * the loudest passage, or from the whole track where its loudness varies much. `whole` is what the lane measures as it stands.
   */
  async propose(
    lane: Lane,
    destination: Destination,
    whole: LevelReading & { rangeLu: number },
    maxDbtp = destination.truePeak.maxDbtp,
  ): Promise<Proposal[]> {
    const wide = whole.rangeLu > WIDE_LU;
    const { master: now } = await this.run(lane);
    const estimated =
      (passes: LevelPasses) =>
      async (moved: Lane): Promise<LevelReading> => {
        const { edges: _, ...passage } = moved;
        const master = await passes.measure(passage);
        return {
          integratedLufs: whole.integratedLufs + master.integratedLufs - now.integratedLufs,
          maxMomentaryLufs: whole.maxMomentaryLufs + master.maxMomentaryLufs - now.maxMomentaryLufs,
          maxShortTermLufs: whole.maxShortTermLufs + master.maxShortTermLufs - now.maxShortTermLufs,
          truePeakDbtp: Math.max(master.truePeakDbtp, whole.truePeakDbtp + master.truePeakDbtp - now.truePeakDbtp),
        };
      };
    const proposals: Proposal[] = [];
    for (const hold of handholdsOf(lane)) {
      const passes = this.passes(wide ? this.audio : this.passageAudio, lane, hold);
      const estimate = wide ? (tried: Lane) => passes.measure(tried) : estimated(passes);
      const { value, met, reading, lane: found } = await meet(lane, destination, hold, estimate, maxDbtp);
      proposals.push({ hold, value, met, reading, cost: costOf(await this.run(found)) });
    }
    return proposals.sort((a, b) => Number(b.met) - Number(a.met) || compare(a.cost.distortionDb, b.cost.distortionDb));
  }

  /** Solves a handhold over the whole track. */
  meet(lane: Lane, destination: Destination, hold: Handhold, maxDbtp?: number): Promise<Meeting> {
    const passes = this.passes(this.audio, lane, hold);
    return meet(lane, destination, hold, (tried) => passes.measure(tried), maxDbtp);
  }

  /**
   * The drive of a handhold in dB up to which loudness costs little in the loudest passage, and the loudness of the whole track
   * there: nothing that is heard is added, and a dB gives most of a dB. Null where it costs already at the least that is looked
   * at.
   */
  async effortless(
    lane: Lane,
    hold: Handhold,
    whole: Pick<LevelReading, 'integratedLufs'>,
  ): Promise<Effortless | null> {
    const passes = this.passes(this.passageAudio, lane, hold);
    const now = await passes.measure(lane);
    const at = async (value: number) => {
      const { integratedLufs } = await passes.measure(movedTo(lane, hold, value));
      const less = await passes.measure(movedTo(lane, hold, value - 1));
      if (integratedLufs - less.integratedLufs < WORTH_LU) return null;
      const { distortionDb, lowDb } = costOf(await this.run(movedTo(lane, hold, value)));
      const cheap = distortionDb <= CLEAN_DB && lowDb <= RATTLE_DB;
      return cheap ? { hold, value, integratedLufs: whole.integratedLufs + integratedLufs - now.integratedLufs } : null;
    };
    let low = Math.max(hold.min + 1, hold.value - AROUND_DB);
    let high = Math.min(hold.max, hold.value + AROUND_DB);
    let found = await at(low);
    if (!found) return null;
    found = (await at(high)) ?? found;
    for (let i = 0; i < HALVINGS && found.value !== high; i++) {
      const middle: number = (low + high) / 2;
      const here = await at(middle);
      if (here) [low, found] = [middle, here];
      else high = middle;
    }
    return found;
  }

  /** Passes over some audio in which a handhold moves, and the last limiter's ceiling with it. */
  private passes(audio: Audio, lane: Lane, hold: Handhold): LevelPasses {
    const on = lane.stages.filter((stage) => stage.on);
    const limiter = on.findLastIndex(({ kind }) => kind === 'limiter');
    const moved = hold.stageId === null ? on.length : on.findIndex(({ id }) => id === hold.stageId);
    // The last limiter's ceiling may have to be lowered as well, but for a trim at the end.
    const first = hold.means === 'trim' || limiter < 0 ? moved : Math.min(moved, limiter);
    return new LevelPasses(audio, this.impulses, first, this.turn);
  }

  /** Of the loudest passage alone, which the edges are not counted in. */
  private run({ edges: _, ...lane }: Lane): Promise<Measurement> {
    return this.passage.run(lane, { turn: () => this.turn(), output: null });
  }
}

/** Orders levels that may be −infinity, which is less than all. */
function compare(a: number, b: number): number {
  return a === b ? 0 : a - b;
}
