import { createStore } from 'zustand/vanilla';
import { PLACES, type PlaceName } from '../../core/elsewhere/places';
import { placeResponse } from '../../core/elsewhere/response';
import type { Lane, Stage } from '../../core/lane/schema';
import type { EqualizerBand } from '../../core/stages/equalizer/settings';
import { traitsOf } from '../../core/stages/registry';
import type { LiveReadings, Loop, Monitor } from '../../engine/live/protocol';
import type { Audio, Measurement } from '../../engine/measure/measurement';
import type { MeasuringQueue } from '../../engine/measure/queue';
import {
  matchGains,
  normalisationGains,
  type Matching,
  type Normalisation,
  type SourceLevel,
} from '../../engine/sources/level-match';
import type { StereoBuffer } from '../../engine/sources/places';
import { LIVE, MIX } from '../../engine/sources/source-mixer';
import { AlternativeLevels } from './candidates/alternative-levels';
import { candidateId } from './candidates/candidate-title';
import type { Candidates } from './candidates/candidates';
import type { PassageLevels } from './candidates/passage-levels';
import type { LiveLink } from './live-link';

export interface AuditionState {
  /** The candidate that is heard, and the one it is switched and compared with. */
  heard: string;
  other: string;
  /** Whether only what the heard one has more or less than the other is heard. */
  difference: boolean;
  matching: Matching;
  /** Takes the place of matching: candidates play as a destination's normalisation would play them. */
  playedAs: (Normalisation & { destination: string }) | null;
  /** Gains in dB of the candidates, by id. */
  gainsDb: Readonly<Record<string, number>>;
  /** Whether the match rests on what was played so far, since the lane is not measured yet. */
  estimated: boolean;
  monitor: Monitor;
  /** The listening band that is heard alone, counted from the lowest; null for all. */
  band: number | null;
  /** The simulated place that one listens at. */
  elsewhere: PlaceName | null;
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
    heard: LIVE,
    other: MIX,
    difference: false,
    matching: 'loudness',
    playedAs: null,
    gainsDb: {},
    estimated: true,
    monitor: 'stereo',
    band: null,
    elsewhere: null,
    soloRegion: false,
    hearsRemoved: false,
  }));
  private lane: Lane;
  private mix: Audio | null = null;
  private master: StereoBuffer | null = null;
  private measurement: Measurement | null = null;
  /** Levels of mix and master as far as they were played; until they are measured. */
  private played: Record<string, SourceLevel> | null = null;
  private alternatives: AlternativeLevels | null = null;
  private passages: PassageLevels | null = null;
  private loop: Loop | null = null;
  private region: EqualizerBand[] = [];
  /** Whether the region is of what enters the stage, not of what is heard. */
  private regionOfInput = false;
  /** A passage that is heard instead of all candidates. */
  private passage: string | null = null;
  private heardSent = '';
  private regionSent = JSON.stringify([[], false]);

  constructor(
    private readonly link: LiveLink,
    private readonly candidates: Candidates,
    lane: Lane,
  ) {
    this.lane = lane;
    candidates.store.subscribe(() => this.candidatesChanged());
  }

  /** Matching by the loop measures what is heard of it. */
  open(mix: Audio, passages: PassageLevels, queue: MeasuringQueue): void {
    this.mix = mix;
    this.passages = passages;
    this.alternatives = new AlternativeLevels(queue, () => this.match());
  }

  /** Sends what stands to a worklet that has just begun. */
  begin(): void {
    this.heardSent = '';
    this.sendHeard();
    const { monitor, band, elsewhere } = this.state;
    this.setMonitor(monitor);
    this.soloBand(band);
    this.goElsewhere(elsewhere);
    this.sendGains();
  }

  // What is heard

  /** Switches to a candidate; the one that was heard becomes the other. */
  listen(id: string): void {
    const { heard, other } = this.state;
    this.store.setState({ heard: id, other: id === heard ? other : heard, difference: false });
    this.candidates.sendPlace(id);
    this.sendHeard();
  }

  /** Switches to the candidate in a place of the listening bar, counted from 0. */
  listenTo(place: number): void {
    const entry = this.candidates.store.getState().entries.at(place);
    if (entry) this.listen(entry.id);
  }

  /** Switches between the two that were heard last. */
  toggle(): void {
    this.listen(this.state.other);
  }

  /** Plays only the difference of the two that were heard last, or the one of them again. */
  hearDifference(on: boolean): void {
    this.store.setState({ difference: on });
    this.sendHeard();
  }

  /** Compares with the lane without a stage and goes there. */
  hearWithout(stage: string): void {
    const what = { kind: 'without', stage } as const;
    if (!this.candidates.add(what)) return;
    this.listen(LIVE);
    this.listen(candidateId(what));
  }

  /** Plays only what an encode of the master differs by from the master; false when there is no place for a candidate. */
  hearEncodeAlone(encodeId: string): boolean {
    const what = { kind: 'encode', encodeId } as const;
    if (!this.candidates.add(what)) return false;
    this.listen(LIVE);
    this.listen(candidateId(what));
    this.hearDifference(true);
    return true;
  }

  /** Compares with the lane without a stage no longer, and goes back to the master. */
  endWithout(stage: string): void {
    this.candidates.remove(candidateId({ kind: 'without', stage }));
    this.listen(LIVE);
  }

  /** Plays normal stereo of a source that is no candidate, as it is; null: candidates again. */
  hearPassage(source: string | null): void {
    if (source !== null && this.passage === null) {
      this.listenNormally();
      this.hearRegion(false);
      if (this.state.hearsRemoved) this.hearRemoved(null);
    }
    this.passage = source;
    this.sendHeard();
  }

  setMatching(matching: Matching): void {
    this.store.setState({ matching, playedAs: null });
    this.match();
  }

  /** Plays candidates as the normalisation of a destination would play them. */
  playAs(playedAs: AuditionState['playedAs']): void {
    this.store.setState({ playedAs });
    this.match();
  }

  setMonitor(monitor: Monitor): void {
    this.store.setState({ monitor });
    this.link.send({ type: 'monitor', monitor });
  }

  /** Plays only one of the listening bands; null: all of them. */
  soloBand(band: number | null): void {
    this.store.setState({ band });
    this.link.send({ type: 'band', index: band });
  }

  /** Plays as it would sound at a simulated place; null: as it is. */
  goElsewhere(elsewhere: PlaceName | null): void {
    this.store.setState({ elsewhere });
    const { mix } = this;
    if (mix)
      this.link.send({
        type: 'elsewhere',
        response: elsewhere && placeResponse(PLACES[elsewhere], mix.sampleRate),
      });
  }

  /** Plays normal stereo again, all of it, as it is. */
  listenNormally(): void {
    this.setMonitor('stereo');
    this.soloBand(null);
    this.goElsewhere(null);
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

  /** The lane has changed. */
  follow(lane: Lane): void {
    this.lane = lane;
    this.link.send({ type: 'lane', lane });
  }

  /** The region of the open stage or band has changed; empty where it has none. */
  followRegion({ bands: region, ofInput }: Region): void {
    this.region = region;
    this.regionOfInput = ofInput;
    if (this.state.soloRegion && region.length === 0) this.store.setState({ soloRegion: false });
    this.sendRegion();
  }

  followLoop(loop: Loop | null): void {
    this.loop = loop;
    if (this.state.matching === 'loop') this.match();
  }

  /** The alternatives of the open stage are matched before one switches to them. */
  followAlternatives(open: string | null): void {
    this.alternatives?.follow(this.lane, open);
    this.match();
  }

  /** The lane was measured, and rendered where there was memory for it; `lane` where that is the lane as it stands. */
  measured(measurement: Measurement, master: StereoBuffer | null, lane: Lane | null): void {
    this.measurement = measurement;
    this.master = master;
    if (lane) this.alternatives?.learn(lane, measurement.master);
    this.match();
  }

  /** The worklet tells what it plays: until the lane is measured the match is estimated from that. */
  heard({ played, joints, playing }: LiveReadings): void {
    if (!playing || this.measurement || joints.length === 0) return;
    const level = (integratedLufs: number, joint: number): SourceLevel => ({
      integratedLufs,
      truePeakDbtp: joints[joint].truePeakDbtp,
    });
    this.played = { [MIX]: level(played.mixLufs, 0), [LIVE]: level(played.laneLufs, joints.length - 1) };
    this.match();
  }

  private get state(): AuditionState {
    return this.store.getState();
  }

  /** A candidate that is gone is not heard any longer; one that has just arrived is, where it was chosen. */
  private candidatesChanged(): void {
    const { heard, other } = this.state;
    if (!this.candidates.entry(heard) && heard !== LIVE) this.store.setState({ heard: LIVE, difference: false });
    if (!this.candidates.entry(other) && other !== MIX) this.store.setState({ other: MIX, difference: false });
    this.sendHeard();
    this.match();
  }

  /** Until the chosen one can be heard the master is. */
  private sendHeard(): void {
    const { heard, other, difference } = this.state;
    const source = this.passage ?? (this.canBeHeard(heard) ? heard : LIVE);
    const less = difference && source === heard && this.canBeHeard(other) ? other : null;
    const text = `${source} ${less}`;
    if (text === this.heardSent) return;
    this.heardSent = text;
    this.link.send({ type: 'hear', source, less });
  }

  private canBeHeard(id: string): boolean {
    return id === LIVE || id === MIX || this.candidates.bufferOf(id) !== null;
  }

  private sendRegion(): void {
    const bands = this.state.soloRegion ? this.region : [];
    const ofInput = bands.length > 0 && this.regionOfInput;
    const text = JSON.stringify([bands, ofInput]);
    if (text === this.regionSent) return;
    this.regionSent = text;
    this.link.send({ type: 'region', bands, ofInput });
  }

  /** What is known of the level of each candidate over the whole track. */
  private levels(): Record<string, SourceLevel> {
    const { measurement, alternatives } = this;
    const master = alternatives?.of(this.lane) ?? measurement?.master;
    const own = measurement && master ? { [MIX]: measurement.mix, [LIVE]: master } : this.played;
    const known = this.candidates.store.getState().entries.flatMap(({ id, level }): [string, SourceLevel][] => {
      const found = own && Object.hasOwn(own, id) ? own[id] : level;
      return found ? [[id, found]] : [];
    });
    return { ...alternatives?.all(), ...Object.fromEntries(known) };
  }

  private match(): void {
    const { matching, playedAs } = this.state;
    let levels = this.levels();
    if (matching === 'loop' && !playedAs && this.loop && this.mix && this.passages)
      levels = this.passages.within(levels, this.buffers(), this.mix.sampleRate, this.loop, () => this.match());
    const gainsDb = playedAs ? normalisationGains(levels, playedAs) : matchGains(levels, matching);
    this.store.setState({ gainsDb, estimated: this.measurement === null });
    this.sendGains();
  }

  /** What each candidate plays from, as far as it is there. */
  buffers(): Record<string, StereoBuffer> {
    const own: Record<string, StereoBuffer | null> = { [MIX]: this.mix, [LIVE]: this.master };
    return Object.fromEntries(
      this.candidates.store.getState().entries.flatMap(({ id }) => {
        const buffer = Object.hasOwn(own, id) ? own[id] : this.candidates.bufferOf(id);
        return buffer ? [[id, buffer]] : [];
      }),
    );
  }

  private sendGains(): void {
    this.link.send({ type: 'gains', gainsDb: this.state.gainsDb });
  }
}
