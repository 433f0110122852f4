import { LaneProcessor, type RunningLane } from '../../core/lane/processor';
import type { Lane } from '../../core/lane/schema';
import { QUANTUM } from '../../core/kernels/layout';
import { SHORT_TERM_HOPS } from '../../core/measure/loudness-statistics';
import type { LoudnessMeter } from '../../core/measure/loudness';
import { amplitude } from '../../core/signal/decibels';
import type { ImpulseResponse } from '../../core/stages/definition';
import { PlayedLoudness } from './played-loudness';
import { FADE_SECONDS, Ramp } from './ramp';
import { RegionFilter } from './region-filter';
import { StageTap } from './stage-tap';
import { type LiveOptions, type LiveReadings, type LiveRequest, type Loop, type Monitor, type Side } from './protocol';

const CHANGE_SECONDS = 0.02;
/** Frames of the programme that a new lane hears before it is faded in, so that filters and gains have settled. */
const PRIME_FRAMES = 8192;
/** The delay of the untouched mix must reach over the longest lane: a dozen linear-phase stages at 192 kHz. */
const DELAY_FRAMES = 524288;

/** Rows: left and right heard; columns: left and right of the programme. */
const MATRICES: Record<Monitor, [number, number, number, number]> = {
  stereo: [1, 0, 0, 1],
  mono: [0.5, 0.5, 0.5, 0.5],
  side: [0.5, -0.5, 0.5, -0.5],
  left: [1, 0, 1, 0],
  right: [0, 1, 0, 1],
};

/** Shares of the master and of what it is compared with in what is heard. */
const WEIGHTS: Record<Side, [master: number, other: number]> = { master: [1, 0], mix: [0, 1], change: [1, -1] };

/**
 * What is heard: runs the lane on the programme in blocks of one quantum, keeps the untouched mix beside it at the same
 * place in time, and moves between everything in ramps. Used by the audio worklet; holds nothing of the browser's.
 */
export class LiveLane {
  private readonly frames: number;
  private lane: LaneProcessor;
  private stages: Lane;
  /** The lane being left, while it fades out. */
  private leaving: LaneProcessor | null = null;
  private readonly change: Ramp;
  /** Next frame of the programme that is fed to the lane. */
  private position = 0;
  /** Frames since the feed last jumped back in a loop. */
  private sinceJump = Infinity;
  private loop: Loop | null = null;
  private playing = false;
  private pendingSeek: number | null = null;
  private readonly transport: Ramp;
  private readonly weights: [master: Ramp, other: Ramp];
  private readonly mixGain: Ramp;
  private readonly masterGain: Ramp;
  private readonly matrix: [Ramp, Ramp, Ramp, Ramp];
  private listening: Side = 'master';
  /** The lane that the master is compared with in place of the mix, and a ring with its output. */
  private against: LaneProcessor | null = null;
  private againstStages: Lane | null = null;
  /** Another lane to compare with, until the present one is no longer heard. */
  private pendingAgainst: Lane | null | undefined;
  private againstLeft = new Float32Array(0);
  private againstRight = new Float32Array(0);
  private readonly region: RegionFilter;
  private readonly delayLeft = new Float32Array(DELAY_FRAMES);
  private readonly delayRight = new Float32Array(DELAY_FRAMES);
  private delayed = 0;
  private readonly tapped: StageTap;
  private readonly responses: Map<string, ImpulseResponse>;
  private readonly played = { mix: new PlayedLoudness(), master: new PlayedLoudness() };

  constructor(private readonly options: LiveOptions) {
    const { audio, lane } = options;
    this.frames = audio.left.length;
    this.stages = lane;
    this.responses = new Map(Object.entries(options.responses ?? {}));
    this.lane = this.makeLane(lane);
    this.tapped = new StageTap(audio.sampleRate, options.taps, lane, (straight) => this.makeLane(straight, 0));
    this.region = new RegionFilter(audio.sampleRate);
    const ramp = (value: number, seconds: number) => new Ramp(value, Math.round(seconds * audio.sampleRate));
    this.change = ramp(1, CHANGE_SECONDS);
    this.playing = options.playing ?? false;
    this.transport = ramp(this.playing ? 1 : 0, FADE_SECONDS);
    this.weights = [ramp(1, FADE_SECONDS), ramp(0, FADE_SECONDS)];
    this.mixGain = ramp(1, FADE_SECONDS);
    this.masterGain = ramp(1, FADE_SECONDS);
    const [a, b, c, d] = MATRICES.stereo;
    this.matrix = [ramp(a, FADE_SECONDS), ramp(b, FADE_SECONDS), ramp(c, FADE_SECONDS), ramp(d, FADE_SECONDS)];
  }

  receive(request: LiveRequest): void {
    switch (request.type) {
      case 'lane':
        return this.takeLane(request.lane);
      case 'response':
        this.responses.set(request.name, request.response);
        return;
      case 'play':
        if (!this.playing && this.audible() >= this.frames - 1) this.jump(this.loop?.start ?? 0);
        this.playing = true;
        return this.transport.moveTo(1);
      case 'pause':
        this.playing = false;
        return this.transport.moveTo(0);
      case 'seek':
        this.pendingSeek = Math.max(0, Math.min(this.frames, Math.round(request.frame)));
        return this.transport.moveTo(0);
      case 'loop':
        this.loop = request.loop;
        return;
      case 'listen':
        this.listening = request.side;
        return this.pendingAgainst === undefined ? this.weigh(request.side) : undefined;
      case 'against':
        return this.compareWith(request.lane);
      case 'region':
        return this.region.set(request.bands);
      case 'match':
        this.mixGain.moveTo(amplitude(request.mixDb));
        return this.masterGain.moveTo(amplitude(request.masterDb));
      case 'monitor':
        return this.matrix.forEach((ramp, i) => ramp.moveTo(MATRICES[request.monitor][i]));
      case 'removed':
        return this.tapped.hearRemoved(request.gainDb);
      case 'tap':
        return this.tapped.choose(request.stage);
    }
  }

  /** Fills one quantum with what is heard. */
  render(left: Float32Array, right: Float32Array): void {
    if (this.transport.value === 0 && this.transport.resting) {
      if (this.pendingSeek !== null) {
        this.jump(this.pendingSeek);
        this.pendingSeek = null;
        if (this.playing) this.transport.moveTo(1);
      }
      if (!this.playing) {
        left.fill(0);
        right.fill(0);
        return;
      }
    }
    if (this.pendingAgainst !== undefined && this.weights[1].value === 0 && this.weights[1].resting) {
      this.swapAgainst(this.pendingAgainst);
      this.pendingAgainst = undefined;
      this.weigh(this.listening);
    }
    this.feed();
    this.run(this.lane, true);
    if (this.against) this.runAgainst(this.against);
    this.compare(this.lane, left, right);
    if (this.leaving) this.crossfade(this.leaving, left, right);
    this.tapped.blendRemoved(this.lane, left, right);
    this.region.process(left, right);
    for (let i = 0; i < QUANTUM; i++) {
      const gain = this.transport.next();
      left[i] *= gain;
      right[i] *= gain;
    }
    if (this.playing && this.audible() >= this.frames && !this.loop) {
      this.playing = false;
      this.transport.moveTo(0);
    }
  }

  readings(): LiveReadings {
    const { joints } = this.lane;
    const compared = this.against?.joints.at(-1) ?? joints[0];
    const heard = this.listening === 'mix' ? compared : joints[joints.length - 1];
    const result: LiveReadings = {
      frame: this.pendingSeek ?? Math.max(0, Math.min(this.frames, this.audible())),
      playing: this.playing,
      joints: joints.map(({ loudness, peak }) => ({
        momentaryLufs: loudness.momentary(),
        samplePeak: Math.max(...peak.samplePeaks()),
        truePeak: Math.max(...peak.truePeaks()),
      })),
      gainReduction: this.stages.stages.map((_, i) => this.lane.takeGainReduction(i)),
      movements: this.lane.movements(this.tapped.stage),
      bandReductions: this.lane.bandReductions(this.tapped.stage),
      tapLead: this.tapped.lead(this.lane),
      correlations: this.tapped.correlations(),
      samplePeak: heard.peak.samplePeaks(),
      truePeak: heard.peak.truePeaks(),
      momentaryLufs: heard.loudness.momentary(),
      shortTermLufs: heard.loudness.shortTerm(),
      integratedLufs: this.played[this.listening === 'mix' ? 'mix' : 'master'].integrated(),
      mixLufs: this.played.mix.integrated(),
      masterLufs: this.played.master.integrated(),
    };
    for (const { peak } of joints) peak.clear();
    for (const { peak } of this.against?.joints ?? []) peak.clear();
    return result;
  }

  /** Frame of the programme that is heard now: the feed less the lane's latency. */
  private audible(): number {
    const { latency } = this.lane;
    return this.loop && this.sinceJump < latency ? this.loop.end - (latency - this.sinceJump) : this.position - latency;
  }

  private makeLane(lane: RunningLane, meterHops = SHORT_TERM_HOPS): LaneProcessor {
    return new LaneProcessor(lane, {
      purpose: this.options.purpose ?? 'listening',
      responses: this.responses,
      sampleRate: this.options.audio.sampleRate,
      maxFrames: QUANTUM,
      meterHops,
    });
  }

  private takeLane(lane: Lane): void {
    this.stages = lane;
    this.tapped.follow(lane);
    if (this.lane.update(lane)) return;
    this.leaving = this.lane;
    this.lane = this.makeLane(lane);
    this.prime(this.lane, this.position);
    this.clearPlayed();
    this.change.value = 0;
    this.change.moveTo(0);
    this.change.moveTo(1);
  }

  private weigh(side: Side): void {
    WEIGHTS[side].forEach((weight, i) => this.weights[i].moveTo(weight));
  }

  /** Takes another lane to compare with; one of other stages waits until the present one is no longer heard. */
  private compareWith(lane: Lane | null): void {
    if (lane && this.against && this.pendingAgainst === undefined && this.against.update(lane)) {
      this.againstStages = lane;
      return;
    }
    this.pendingAgainst = lane;
    this.weigh('master');
  }

  private swapAgainst(lane: Lane | null): void {
    this.againstStages = lane;
    this.against = lane && this.makeLane(lane);
    if (!this.against) return this.clearPlayed();
    if (this.againstLeft.length === 0) {
      this.againstLeft = new Float32Array(DELAY_FRAMES);
      this.againstRight = new Float32Array(DELAY_FRAMES);
    }
    this.prime(this.against, this.position, true);
    this.clearPlayed();
  }

  /** Lets a new lane hear what lies before a frame: as much as it takes to settle and to fill its latency. */
  private prime(lane: LaneProcessor, frame: number, kept = false): void {
    const quanta = Math.ceil((PRIME_FRAMES + 2 * lane.latency) / QUANTUM);
    for (let before = quanta; before > 0; before--) {
      this.copy(frame - before * QUANTUM, lane.left, lane.right);
      lane.process(QUANTUM);
      if (kept) this.keepAgainst(lane, this.delayed - before * QUANTUM);
    }
    for (const { peak } of lane.joints) peak.clear();
  }

  private clearPlayed(): void {
    this.played.mix.clear(this.comparedLoudness().hopCount);
    this.played.master.clear(this.lane.joints[this.lane.joints.length - 1].loudness.hopCount);
  }

  private comparedLoudness(): LoudnessMeter {
    return (this.against?.joints.at(-1) ?? this.lane.joints[0]).loudness;
  }

  /** Goes to a frame so that it is the next to be heard. */
  private jump(frame: number): void {
    this.leaving = null;
    this.lane = this.makeLane(this.stages);
    this.against = this.againstStages && this.makeLane(this.againstStages);
    this.position = frame;
    this.sinceJump = Infinity;
    const { latency } = this.lane;
    // The lane and the delay must hold what lies between the frame that is heard and the one that is fed.
    this.prime(this.lane, frame);
    if (this.against) this.prime(this.against, frame, true);
    this.clearPlayed();
    for (let ahead = 0; ahead < latency; ahead += QUANTUM) {
      this.feed();
      this.run(this.lane, false);
      if (this.against) this.runAgainst(this.against);
    }
  }

  private copy(frame: number, left: Float64Array, right: Float64Array): void {
    const { audio } = this.options;
    for (let i = 0; i < QUANTUM; i++) {
      const at = frame + i;
      const inside = at >= 0 && at < this.frames;
      left[i] = inside ? audio.left[at] : 0;
      right[i] = inside ? audio.right[at] : 0;
    }
  }

  /** Takes the next quantum of the programme into the delay; a loop dips to silence for a quantum on each side of its seam. */
  private feed(): void {
    const { audio } = this.options;
    const { loop } = this;
    for (let i = 0; i < QUANTUM; i++) {
      if (loop && this.position >= loop.end && this.position < loop.end + QUANTUM) {
        this.position = loop.start;
        this.sinceJump = 0;
      }
      const inside = this.position < this.frames;
      const seam = loop ? Math.min(1, Math.abs(loop.end - this.position) / QUANTUM, this.sinceJump / QUANTUM) : 1;
      const at = (this.delayed + i) % DELAY_FRAMES;
      this.delayLeft[at] = inside ? audio.left[this.position] * seam : 0;
      this.delayRight[at] = inside ? audio.right[this.position] * seam : 0;
      this.position++;
      this.sinceJump++;
    }
    this.delayed = (this.delayed + QUANTUM) % DELAY_FRAMES;
  }

  private readonly tap = (joint: number): void => this.tapped.take(this.lane, joint);

  /** Runs a lane on the newest quantum of the delay. */
  private run(lane: LaneProcessor, tapped: boolean): void {
    const start = (this.delayed - QUANTUM + DELAY_FRAMES) % DELAY_FRAMES;
    lane.left.set(this.delayLeft.subarray(start, start + QUANTUM));
    lane.right.set(this.delayRight.subarray(start, start + QUANTUM));
    lane.process(QUANTUM, tapped ? this.tap : undefined);
    if (tapped) {
      this.played.mix.follow(this.comparedLoudness());
      this.played.master.follow(lane.joints[lane.joints.length - 1].loudness);
    }
  }

  private runAgainst(against: LaneProcessor): void {
    this.run(against, false);
    this.keepAgainst(against, this.delayed - QUANTUM);
  }

  /** Keeps a quantum of the other lane's output beside the mix that went in. */
  private keepAgainst(against: LaneProcessor, at: number): void {
    const start = (at + 2 * DELAY_FRAMES) % DELAY_FRAMES;
    this.againstLeft.set(against.left, start);
    this.againstRight.set(against.right, start);
  }

  /** What is chosen of one lane and of what it is compared with, equally loud, through the monitor. */
  private compare(lane: LaneProcessor, left: Float32Array, right: Float32Array): void {
    const [a, b, c, d] = this.matrix;
    const [masterWeight, otherWeight] = this.weights;
    const otherLeft = this.against ? this.againstLeft : this.delayLeft;
    const otherRight = this.against ? this.againstRight : this.delayRight;
    const start = this.otherStart(lane);
    for (let i = 0; i < QUANTUM; i++) {
      const mix = this.mixGain.next() * otherWeight.next();
      const master = this.masterGain.next() * masterWeight.next();
      const at = (start + i) % DELAY_FRAMES;
      const l = lane.left[i] * master + otherLeft[at] * mix;
      const r = lane.right[i] * master + otherRight[at] * mix;
      left[i] = l * a.next() + r * b.next();
      right[i] = l * c.next() + r * d.next();
    }
  }

  /** Where in its ring lies what belongs to a lane's newest output. */
  private otherStart(lane: LaneProcessor): number {
    const lag = Math.max(0, lane.latency - (this.against?.latency ?? 0));
    return this.delayed - QUANTUM - lag + 2 * DELAY_FRAMES;
  }

  /** Blends the lane being left into what was rendered; it takes the controls' resting values. */
  private crossfade(leaving: LaneProcessor, left: Float32Array, right: Float32Array): void {
    this.run(leaving, false);
    const [a, b, c, d] = this.matrix;
    const otherLeft = this.against ? this.againstLeft : this.delayLeft;
    const otherRight = this.against ? this.againstRight : this.delayRight;
    const start = this.otherStart(leaving);
    const mix = this.mixGain.value * this.weights[1].value;
    const master = this.masterGain.value * this.weights[0].value;
    for (let i = 0; i < QUANTUM; i++) {
      const at = (start + i) % DELAY_FRAMES;
      const l = leaving.left[i] * master + otherLeft[at] * mix;
      const r = leaving.right[i] * master + otherRight[at] * mix;
      const arrived = this.change.next();
      left[i] = left[i] * arrived + (l * a.value + r * b.value) * (1 - arrived);
      right[i] = right[i] * arrived + (l * c.value + r * d.value) * (1 - arrived);
    }
    if (this.change.resting) this.leaving = null;
  }
}
