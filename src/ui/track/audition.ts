import { createStore } from 'zustand/vanilla';
import type { Lane, Stage } from '../../core/lane/schema';
import type { EqualizerBand } from '../../core/stages/equalizer/settings';
import { traitsOf } from '../../core/stages/registry';
import type { LiveReadings, Monitor } from '../../engine/live/protocol';
import type { Measurement } from '../../engine/measure/measurement';
import { laneKey, type MeasuringQueue, type MeasuringTicket } from '../../engine/measure/queue';
import { matchGains, type Matching, type SourceLevel } from '../../engine/sources/level-match';
import { LIVE, MIX } from '../../engine/sources/source-mixer';
import type { LiveLink } from './live-link';
import { isUnwanted } from './measurements';

/** The lane without one of its stages, rendered. */
const WITHOUT = 'without';

/** What is heard: what the master is compared with, the master, or only the difference between them. */
export type Heard = 'compared' | 'master' | 'difference';

export interface AuditionState {
  heard: Heard;
  /** The stage without which the lane is compared; null: compared with the mix. */
  without: string | null;
  /** Share of the lane without the stage that is rendered; null when it can be heard. */
  rendering: number | null;
  matching: Matching;
  /** Gains in dB that match the two. */
  gainsDb: { compared: number; master: number };
  /** Whether the match rests on what was played so far, since the lane is not measured yet. */
  estimated: boolean;
  monitor: Monitor;
  /** Whether only the region of the open stage or band is heard. */
  soloRegion: boolean;
  /** Whether only what the open stage removes is heard. */
  hearsRemoved: boolean;
}

/** Bands that pass only a region; none where there is no such region. */
export interface Region {
  bands: EqualizerBand[];
  /** Of what enters the stage, or of what is heard. */
  ofInput: boolean;
}

/** The region of the open stage or band. */
export function openRegion({ stages, crossovers }: Lane, open: string | null, band: number): Region {
  const stage = stages.find(({ id }) => id === open);
  const { region, hearsInput = false } = stage ? traitsOf<Stage>(stage) : {};
  return { bands: (stage && region?.(stage.settings, band, crossovers)) ?? [], ofInput: hearsInput };
}

/** What of the open track is heard, at matched level, and through what. */
export class Audition {
  readonly store = createStore<AuditionState>(() => ({
    heard: 'master',
    without: null,
    rendering: null,
    matching: 'loudness',
    gainsDb: { compared: 0, master: 0 },
    estimated: true,
    monitor: 'stereo',
    soloRegion: false,
    hearsRemoved: false,
  }));
  private queue: MeasuringQueue | null = null;
  private lane: Lane;
  private measurement: Measurement | null = null;
  /** The lane without a stage: its request, what is played of it, and what was played before. */
  private ticket: MeasuringTicket | null = null;
  private played: { ticket: MeasuringTicket; measurement: Measurement } | null = null;
  private retired: MeasuringTicket | null = null;
  private asked = '';
  private region: EqualizerBand[] = [];
  /** Whether the region is of what enters the stage, not of what is heard. */
  private regionOfInput = false;
  private regionSent = JSON.stringify([[], false]);

  constructor(
    private readonly link: LiveLink,
    lane: Lane,
    private readonly report: (problem: string) => void,
  ) {
    this.lane = lane;
  }

  /** Rendered sources come from a queue. */
  open(queue: MeasuringQueue): void {
    this.queue = queue;
  }

  /** Sends what stands to a worklet that has just begun. */
  begin(): void {
    this.sendHeard();
    this.link.send({ type: 'monitor', monitor: this.state.monitor });
  }

  // What is heard

  listen(heard: Heard): void {
    this.store.setState({ heard });
    this.sendHeard();
  }

  /** Compares with the lane without a stage and goes there; null: with the mix, and back to the master. */
  hearWithout(stage: string | null): void {
    if (stage !== this.state.without) this.compareWithout(stage);
    this.listen(stage ? 'compared' : 'master');
  }

  setMatching(matching: Matching): void {
    this.store.setState({ matching });
    this.match();
  }

  setMonitor(monitor: Monitor): void {
    this.store.setState({ monitor });
    this.link.send({ type: 'monitor', monitor });
  }

  /** Plays only what the open stage removes, `gainDb` being what it does to what it leaves alone; null: no longer. */
  hearRemoved(gainDb: number | null): void {
    this.store.setState({ hearsRemoved: gainDb !== null });
    this.link.send({ type: 'removed', gainDb });
  }

  /** Plays a changed lane that is not kept; null goes back to the lane as it is. */
  preview(change: ((stages: Stage[]) => Stage[]) | null): void {
    const { lane } = this;
    this.link.send({ type: 'lane', lane: change ? { ...lane, stages: change(lane.stages) } : lane });
  }

  /** Plays only the region of the open stage or band, or everything again. Where there is none everything is heard. */
  hearRegion(on: boolean): void {
    this.store.setState({ soloRegion: on && this.region.length > 0 });
    this.sendRegion();
  }

  // What it follows

  /** The lane has changed. A stage that is gone or off is not compared with any longer. */
  follow(lane: Lane): void {
    this.lane = lane;
    this.link.send({ type: 'lane', lane });
    const { without } = this.state;
    if (without === null) return;
    if (lane.stages.some(({ id, on }) => id === without && on)) this.render();
    else {
      this.compareWithout(null);
      this.listen('master');
    }
  }

  /** The region of the open stage or band has changed; empty where it has none. */
  followRegion({ bands: region, ofInput }: Region): void {
    this.region = region;
    this.regionOfInput = ofInput;
    if (this.state.soloRegion && region.length === 0) this.store.setState({ soloRegion: false });
    this.sendRegion();
  }

  /** The lane was measured. */
  measured(measurement: Measurement): void {
    this.measurement = measurement;
    this.match();
  }

  /** The worklet tells what it plays: until the lane is measured the match is estimated from that. */
  heard({ played, joints, playing }: LiveReadings): void {
    if (!playing || this.measurement || joints.length === 0) return;
    this.apply({
      compared: { integratedLufs: played.mixLufs, truePeakDbtp: joints[0].truePeakDbtp },
      master: { integratedLufs: played.laneLufs, truePeakDbtp: joints[joints.length - 1].truePeakDbtp },
    });
  }

  close(): void {
    this.ticket?.release();
    this.played?.ticket.release();
    this.retired?.release();
  }

  private get state(): AuditionState {
    return this.store.getState();
  }

  private compareWithout(stage: string | null): void {
    this.ticket?.release();
    this.ticket = null;
    this.asked = '';
    this.retire();
    this.store.setState({ without: stage, rendering: stage ? 0 : null });
    if (!stage) this.link.send({ type: 'source', id: WITHOUT, buffer: null });
    this.render();
    this.match();
  }

  /** Has the lane without the stage rendered, and plays it when that is done. */
  private render(): void {
    const { without } = this.state;
    if (!without || !this.queue) return;
    const lane = { ...this.lane, stages: this.lane.stages.filter(({ id }) => id !== without) };
    if (laneKey(lane) === this.asked) return;
    this.asked = laneKey(lane);
    this.ticket?.release();
    const ticket = this.queue.request({
      subject: WITHOUT,
      lane,
      priority: 'visible',
      onProgress: (share) => this.ticket === ticket && !this.played && this.store.setState({ rendering: share }),
    });
    this.ticket = ticket;
    ticket.result.then(
      (measurement) => {
        if (this.ticket !== ticket) return;
        this.ticket = null;
        this.retire();
        this.played = { ticket, measurement };
        this.link.send({ type: 'source', id: WITHOUT, buffer: { left: measurement.left, right: measurement.right } });
        this.store.setState({ rendering: null });
        this.match();
        this.sendHeard();
      },
      (error: Error) => {
        if (isUnwanted(error) || this.ticket !== ticket) return;
        this.report(error.message);
        this.compareWithout(null);
        this.listen('master');
      },
    );
  }

  /** What was played may still fade out: its buffer is given back when the next one is retired. */
  private retire(): void {
    if (!this.played) return;
    this.retired?.release();
    this.retired = this.played.ticket;
    this.played = null;
  }

  private sendHeard(): void {
    const { heard, without } = this.state;
    const compared = without ? WITHOUT : MIX;
    // Until the other source is rendered the master is heard.
    if (heard === 'master' || (without && !this.played)) this.link.send({ type: 'hear', source: LIVE, less: null });
    else if (heard === 'compared') this.link.send({ type: 'hear', source: compared, less: null });
    else this.link.send({ type: 'hear', source: LIVE, less: compared });
  }

  private sendRegion(): void {
    const bands = this.state.soloRegion ? this.region : [];
    const ofInput = bands.length > 0 && this.regionOfInput;
    const text = JSON.stringify([bands, ofInput]);
    if (text === this.regionSent) return;
    this.regionSent = text;
    this.link.send({ type: 'region', bands, ofInput });
  }

  private match(): void {
    const compared = this.state.without ? this.played?.measurement.master : this.measurement?.mix;
    this.store.setState({ estimated: !this.measurement || !compared });
    if (this.measurement && compared) this.apply({ compared, master: this.measurement.master });
  }

  private apply(levels: { compared: SourceLevel; master: SourceLevel }): void {
    const { compared, master } = matchGains(levels, this.state.matching);
    this.store.setState({ gainsDb: { compared, master } });
    this.link.send({ type: 'gains', gainsDb: { [this.state.without ? WITHOUT : MIX]: compared, [LIVE]: master } });
  }
}
