import { QUANTUM } from '../../core/kernels/layout';
import type { ImpulseResponse } from '../../core/stages/definition';
import type { LaneProcessor } from '../../core/lane/processor';
import { LiveLane } from '../sources/live-lane';
import { makePlaces, readAt } from '../sources/places';
import { FADE_SECONDS } from '../sources/ramp';
import { LIVE, MIX, SourceMixer } from '../sources/source-mixer';
import { Elsewhere } from './elsewhere';
import { HeardMeter } from './heard-meter';
import { Instruments } from './instruments';
import { JointLevels } from './joint-levels';
import { listeningBand } from './listening-bands';
import { MonitorMatrix } from './monitor-matrix';
import { PlayedLoudness } from './played-loudness';
import type { HeardLevels, LiveOptions, LiveReadings, LiveRequest } from './protocol';
import { bufferLevels, heardLevels } from './readings';
import { RegionFilter } from './region-filter';
import { StageTap } from './stage-tap';
import { Transport } from './transport';

/**
 * What is heard: feeds the live lane from the transport, mixes the sources at the place that is heard, and passes them
 * through the monitoring chain. Used by the audio worklet; holds nothing of the browser's.
 */
export class ListeningEngine {
  private readonly transport: Transport;
  private readonly lane: LiveLane;
  private readonly mixer: SourceMixer;
  private readonly tap: StageTap;
  private readonly matrix: MonitorMatrix;
  private readonly region: RegionFilter;
  private readonly band: RegionFilter;
  private readonly elsewhere: Elsewhere;
  /** Everything between the sources and the ear, in order. */
  private readonly monitoring: readonly { process(left: Float32Array, right: Float32Array): void }[];
  private readonly impulses: Map<string, ImpulseResponse>;
  private readonly fed = makePlaces();
  private readonly heardAt = makePlaces();
  private readonly otherLeft = new Float32Array(QUANTUM);
  private readonly otherRight = new Float32Array(QUANTUM);
  private readonly played = { mix: new PlayedLoudness(), lane: new PlayedLoudness() };
  private metered: JointLevels;
  private readonly heardMeter: HeardMeter;
  private metersBuffer = false;
  private instruments: Instruments[] = [];
  private readonly takeTap = (joint: number): void => {
    this.tap.take(this.lane.processor, joint);
    for (const each of this.instruments) each.take(this.lane.processor, joint, this.heardJoint);
  };

  constructor(private readonly options: LiveOptions) {
    const { audio, lane, taps, use = 'listening', playing = false } = options;
    const { sampleRate } = audio;
    this.impulses = new Map(Object.entries(options.impulses ?? {}));
    this.lane = new LiveLane({ mix: audio, sampleRate, lane, use, impulses: this.impulses });
    this.metered = new JointLevels(this.lane.processor);
    this.transport = new Transport(audio.left.length, sampleRate, playing);
    this.mixer = new SourceMixer(Math.round(FADE_SECONDS * sampleRate));
    this.mixer.set(MIX, audio);
    this.tap = new StageTap(sampleRate, taps, lane, (linear) => this.lane.make(linear, 0));
    this.matrix = new MonitorMatrix(sampleRate);
    this.region = new RegionFilter(sampleRate);
    this.heardMeter = new HeardMeter(sampleRate);
    this.band = new RegionFilter(sampleRate);
    this.elsewhere = new Elsewhere(sampleRate);
    this.monitoring = [this.tap, this.matrix, this.region, this.band, this.transport, this.elsewhere];
  }

  receive(request: LiveRequest): void {
    const { transport, mixer } = this;
    switch (request.type) {
      case 'lane':
        this.tap.follow(request.lane);
        if (this.lane.take(request.lane, transport.next)) this.clearPlayed();
        return;
      case 'impulse':
        this.impulses.set(request.name, request.impulse);
        return;
      case 'play':
        if (!transport.playing && transport.heard(this.latency) >= this.options.audio.left.length - 1)
          this.jump(transport.loop?.start ?? 0);
        return transport.play();
      case 'pause':
        return transport.pause();
      case 'seek':
        return transport.seek(request.frame);
      case 'loop':
        transport.loop = request.loop;
        return;
      case 'source':
        return request.buffer ? mixer.set(request.id, request.buffer) : mixer.remove(request.id);
      case 'place':
        return mixer.setPlace(request.id, request.place);
      case 'hear':
        return mixer.hear(request);
      case 'gains':
        for (const [id, gainDb] of Object.entries(request.gainsDb)) mixer.setGain(id, gainDb);
        return;
      case 'region':
        this.tap.hearInput(request.bands.length > 0 && request.ofInput === true);
        return this.region.set(request.bands);
      case 'monitor':
        return this.matrix.set(request.monitor);
      case 'band':
        return this.band.set(listeningBand(request.index));
      case 'elsewhere':
        return this.elsewhere.set(request.response);
      case 'removed':
        return this.tap.hearRemoved(request.gainDb);
      case 'instruments':
        return this.measureAt(request);
      case 'tap':
        return this.tap.choose(request.stage);
    }
  }

  /** Instruments go to places; those that measure there already go on. */
  private measureAt({ places, ppm }: Extract<LiveRequest, { type: 'instruments' }>): void {
    const rings = this.options.instruments ?? [];
    this.instruments = places.slice(0, rings.length).map((place, i) => {
      const known = this.instruments.at(i);
      if (!known) return new Instruments(this.options.audio.sampleRate, rings[i], place, ppm);
      known.choose(place, ppm);
      return known;
    });
  }

  /** Levels at a joint of the lane, whatever is heard. */
  private levelsAt(joint: number): HeardLevels {
    const { levels, played } = this;
    const last = this.lane.processor.joints.length - 1;
    const within = Math.min(joint, last);
    if (within === 0) return heardLevels(levels, 0, played.mix);
    if (within === last) return heardLevels(levels, last, played.lane);
    return { ...heardLevels(levels, within, played.lane), integratedLufs: -Infinity };
  }

  /** The joint of the lane that is heard; −1 for what plays from a buffer of its own. */
  private get heardJoint(): number {
    const { source } = this.mixer;
    if (source === MIX) return 0;
    return source === LIVE ? this.lane.processor.joints.length - 1 : -1;
  }

  /** Whether nothing is heard and nothing will be until the next request. */
  get idle(): boolean {
    return this.transport.silent && !this.transport.playing;
  }

  /** Fills one quantum with what is heard. */
  render(left: Float32Array, right: Float32Array): void {
    const { transport, lane, mixer } = this;
    const place = transport.arrive();
    if (place !== null) this.jump(place);
    if (this.idle) {
      left.fill(0);
      right.fill(0);
      // A place still rings.
      return this.elsewhere.process(left, right);
    }
    transport.feed(this.fed);
    this.run(lane.processor, this.takeTap);
    this.levels.take();
    this.follow();
    transport.remembered(this.latency, this.heardAt);
    mixer.mix(lane.processor, this.heardAt, left, right, true);
    if (lane.leaving) this.fadeFrom(lane.leaving, left, right);
    for (const processor of this.monitoring) processor.process(left, right);
    if (transport.playing && transport.atEnd(this.latency)) transport.pause();
  }

  readings(): LiveReadings {
    const { processor } = this.lane;
    const { levels, played } = this;
    const master = processor.joints.length - 1;
    const mixHeard = this.mixer.source === MIX;
    const heard = this.metersBuffer
      ? bufferLevels(this.heardMeter.meter, this.heardMeter.played)
      : heardLevels(levels, mixHeard ? 0 : master, mixHeard ? played.mix : played.lane);
    const result: LiveReadings = {
      frame: this.transport.heard(this.latency),
      playing: this.transport.playing,
      joints: processor.joints.map((_, joint) => levels.levels(joint)),
      gainReduction: this.lane.lane.stages.map((_, i) => processor.takeGainReduction(i)),
      movements: processor.movements(this.tap.stage),
      bandReductions: processor.bandReductions(this.tap.stage),
      tapLead: this.tap.lead(processor),
      correlations: this.tap.correlations(),
      bandLevels: this.tap.takeBandLevels(),
      heard,
      instruments: this.instruments.map((each) => ({
        ...(each.at === 'heard' ? heard : this.levelsAt(each.at)),
        ...each.reading(),
      })),
      played: { mixLufs: played.mix.integrated(), laneLufs: played.lane.integrated() },
    };
    levels.clear();
    this.heardMeter.meter.peak.clear();
    return result;
  }

  private get latency(): number {
    return this.lane.processor.latency;
  }

  /** Runs a processor of the lane on the newest quantum. */
  private run(processor: LaneProcessor, tap?: (joint: number) => void): void {
    readAt(this.options.audio, this.fed, processor.left, processor.right);
    processor.process(QUANTUM, tap, this.transport);
  }

  /** Levels at the joints of the processor that runs now. */
  private get levels(): JointLevels {
    if (this.metered.processor !== this.lane.processor) this.metered = new JointLevels(this.lane.processor);
    return this.metered;
  }

  /** Keeps the loudness of what is played. */
  private follow(): void {
    const { joints } = this.lane.processor;
    this.played.mix.follow(joints[0].loudness);
    this.played.lane.follow(joints[joints.length - 1].loudness);
    // The mix is metered where it enters the lane.
    this.metersBuffer = this.mixer.source !== MIX && this.heardMeter.add(this.mixer, this.transport, this.latency);
    if (this.metersBuffer) for (const each of this.instruments) each.takeHeard(...this.heardMeter.quantum);
  }

  /** Blends in the processor that is being left, with the sources at the place that is heard through it. */
  private fadeFrom(leaving: LaneProcessor, left: Float32Array, right: Float32Array): void {
    const { otherLeft, otherRight } = this;
    const { arrived } = this.lane;
    this.run(leaving);
    this.transport.remembered(leaving.latency, this.heardAt);
    this.mixer.mix(leaving, this.heardAt, otherLeft, otherRight, false);
    for (let i = 0; i < QUANTUM; i++) {
      const share = arrived.next();
      left[i] = left[i] * share + otherLeft[i] * (1 - share);
      right[i] = right[i] * share + otherRight[i] * (1 - share);
    }
    if (arrived.resting) this.lane.endChange();
  }

  /** Goes to a frame so that it is the next to be heard: the lane first hears what is before it, and its own latency. */
  private jump(frame: number): void {
    this.lane.endChange();
    this.lane.restart(frame);
    this.transport.jump(frame);
    this.clearPlayed();
    for (let done = 0; done < this.latency; done += QUANTUM) {
      this.transport.feed(this.fed);
      this.run(this.lane.processor);
      this.levels.take();
    }
    this.levels.clear();
  }

  private clearPlayed(): void {
    const { joints } = this.lane.processor;
    this.played.mix.clear(joints[0].loudness.hopCount);
    this.played.lane.clear(joints[joints.length - 1].loudness.hopCount);
  }
}
