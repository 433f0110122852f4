import { sentenceOf } from '../../core/sentence-of';
import { MOST_PASSAGE_ENCODES } from '../../contracts/encode-check';
import { distinctEncodes } from '../../core/deliver/encode';
import { alternativesOf, heardAlternative, withAlternativeHeard } from '../../core/lane/alternatives';
import { MAX_STAGES, newStage, stageTitle, type Lane, type Stage } from '../../core/lane/schema';
import { withEdgesOf } from '../../core/lane/lane-edges';
import { beforeLastLimiters, neighbourOf } from '../../core/lane/stage-edits';
import type { BalanceBand } from '../../core/measure/balance';
import type { PpmType } from '../../core/measure/ppm';
import type { ImpulseResponse } from '../../core/stages/definition';
import type { EqualizerBand } from '../../core/stages/equalizer/settings';
import { LIMITER_PAIR } from '../../core/stages/limiter/pair';
import { STAGES, traitsOf, type StageKind } from '../../core/stages/registry';
import { Player } from '../../engine/live/player';
import { makeInstrumentRing, type InstrumentPlace } from '../../engine/live/instruments';
import { makeTaps, type LiveReadings, type LiveRequest, type Taps } from '../../engine/live/protocol';
import type { Measurement } from '../../engine/measure/measurement';
import type { PeakPlace } from '../../engine/measure/peak-places';
import type { MeasuringQueue } from '../../engine/measure/queue';
import type { StereoBuffer } from '../../engine/sources/places';
import { LevelRunner } from '../../engine/measure/level-runner';
import { SolverRunner } from '../../engine/measure/solver-runner';
import { openTrackMeasuring } from '../../engine/measure/worker-runner';
import { chosenVersion, type TrackDetails, trackDetailsSchema } from '../../contracts/track';
import { releaseDetailSchema } from '../../contracts/release';
import { MAX_LABEL, type VersionState } from '../../contracts/version';
import type { HouseLane } from '../../core/house/house-lane';
import { api, send } from '../api';
import { Audition, openRegion } from './audition';
import { BlindSession, type BlindPlan } from './blind/blind-session';
import type { Workshop } from './candidates/candidate-source';
import { candidateId } from './candidates/candidate-title';
import { Candidates } from './candidates/candidates';
import { PassageLevels } from './candidates/passage-levels';
import { EncodeChecks } from './encodes/encode-checks';
import { Impulses } from '../impulses';
import { LaneEditor } from './lane-editor';
import type { LaneHistory } from './lane-saver';
import { LiveBoard } from './live-board';
import { LiveLink } from './live-link';
import { MeasurementKeeper } from './measurement-keeper';
import { measureLane, type OnItsWay } from './measure-lane';
import { Measurements } from './measurements';
import { Navigation } from './navigation';
import { Notes } from './notes/notes';
import { OpenTrack } from './open-track';
import { PassagePlayer } from './passage-player';
import { Selection } from './selection';
import { Transport } from './transport';
import { listeningGainDb, useVolume } from './volume';
import { lastOpenVersion, readView, writeView } from './view-memory';

/**
 * One open track, put together from parts that know nothing of each other: what is known of it, its lane, what is open of
 * that, where and what is heard, and what is measured. Here is who follows whom. Works without React.
 */
export class TrackEditor {
  readonly board = new LiveBoard();
  readonly taps: Taps = makeTaps();
  /** What the instruments measure, place by place. */
  readonly rings = [makeInstrumentRing(), makeInstrumentRing()] as const;
  readonly track: OpenTrack;
  readonly lane: LaneEditor;
  readonly selection: Selection;
  readonly transport: Transport;
  readonly candidates: Candidates;
  readonly notes: Notes;
  readonly encodes: EncodeChecks;
  readonly navigation: Navigation;
  readonly audition: Audition;
  readonly passages: PassagePlayer;
  readonly blind: BlindSession;
  readonly measurements = new Measurements();
  private readonly link = new LiveLink();
  private readonly keeper = new MeasurementKeeper();
  private queue: MeasuringQueue | null = null;
  private workshop: Workshop | null = null;
  private impulses: Impulses | null = null;
  private instruments: LiveRequest = { type: 'instruments', places: [], ppm: 'I' };
  private closed = false;
  private unfollowVolume = () => {};

  /** `history` keeps the lane; left out: the server. */
  constructor(details: TrackDetails, history?: LaneHistory) {
    const view = readView(details.track.id);
    const version = lastOpenVersion(details.track.id, details.versions) as VersionState;
    const { stages } = version.lane;
    const stage = stages.find(({ id }) => id === view.openStage)?.id ?? stages[0]?.id ?? null;
    this.track = new OpenTrack(details);
    this.lane = new LaneEditor(version, (problem) => this.track.report(problem), history);
    this.selection = new Selection({ stage, band: view.openBand });
    this.transport = new Transport(this.link, view.loop);
    this.candidates = new Candidates(
      this.link,
      { details, lane: version.lane },
      (candidates) => this.track.saveCandidates(candidates),
      (problem) => this.track.report(problem),
      () => this.transport.here(this.board.latest?.frame ?? 0),
    );
    this.notes = new Notes(details.track.id, details.notes, (problem) => this.track.report(problem));
    this.encodes = new EncodeChecks(
      () => this.lane.version.id,
      () => void this.track.refresh().catch(() => {}),
    );
    this.audition = new Audition(this.link, this.candidates, version.lane);
    this.passages = new PassagePlayer(this.link, this.audition, this.transport);
    this.blind = new BlindSession(details.track.id, this.passages);
    this.navigation = new Navigation(this);
    this.connect();
  }

  /** Who follows whom. */
  private connect(): void {
    this.lane.store.subscribe(({ version, saving }, before) => {
      if (version.id !== before.version.id) this.candidates.versionOpened(version.id, before.version.id);
      if (version.lane !== before.version.lane) this.laneChanged();
      if (version.lane !== before.version.lane || version.id !== before.version.id) this.encodes.forget();
      if (saving === 'saved' && before.saving !== 'saved') this.refreshEncodes();
    });
    this.track.store.subscribe(({ details }, before) => {
      if (details !== before.details) this.candidates.follow({ details, lane: this.lane.lane });
    });
    this.transport.store.subscribe(({ loop }, before) => {
      if (loop !== before.loop) this.audition.followLoop(loop);
    });
    this.selection.store.subscribe(({ stage, band }, before) => {
      if (stage !== before.stage) this.tapStage();
      if (stage !== before.stage) this.audition.followAlternatives(stage);
      if (stage !== before.stage || band !== before.band) this.followRegion();
    });
    this.measurements.store.subscribe(({ measurement, rendered, kept, share }, before) => {
      if (!measurement || (measurement === before.measurement && rendered === before.rendered)) return;
      this.audition.measured(measurement, rendered, share === null ? this.lane.lane : null);
      if (measurement === before.measurement) return;
      if (share !== null) return;
      this.lane.applyAutoMakeup(measurement.joints);
      if (!kept) this.keepMeasurement(measurement);
    });
    this.unfollowVolume = useVolume.subscribe((volume) => this.link.setVolume(listeningGainDb(volume)));
    this.lane.store.subscribe(() => this.rememberView());
    this.selection.store.subscribe(() => this.rememberView());
    this.transport.store.subscribe(() => this.rememberView());
  }

  /** Asks for checks in encodes where a destination needs them, or there are any. */
  private refreshEncodes(): void {
    const { destinations, encodes, mix } = this.track.details;
    const asked = distinctEncodes(destinations.flatMap(({ settings }) => settings.encodes));
    if (encodes.length > 0 || asked.length > 0) void this.encodes.refresh();
    if (mix?.status === 'ready') void this.encodes.checkPassage(asked.slice(0, MOST_PASSAGE_ENCODES));
  }

  /** Has the server keep a measurement of the saved lane. */
  private keepMeasurement(measurement: Measurement): void {
    const { mix } = this.track.details;
    const { version, lane } = this.lane;
    const fits = () => this.lane.lane === lane && this.lane.store.getState().saving === 'saved';
    if (mix) this.keeper.keep({ mixId: mix.id, versionId: version.id, lane, measurement, fits });
  }

  private laneChanged(): void {
    const { lane } = this.lane;
    this.selection.follow(lane);
    if (this.impulses && !this.impulses.has(lane)) {
      // What it needs is fetched first; the lane as it is then takes its place.
      this.impulses.need(lane).then(
        () => this.laneChanged(),
        (error: Error) => this.replaceImpulses(error),
      );
      return;
    }
    this.audition.follow(lane);
    this.audition.followAlternatives(this.selection.store.getState().stage);
    this.candidates.follow({ details: this.track.details, lane });
    this.tapStage();
    this.followRegion();
    this.measurements.follow(lane);
  }

  /** Has the worklet watch the open stage. */
  private tapStage(): void {
    const { stage } = this.selection.store.getState();
    const index = this.lane.lane.stages.findIndex(({ id }) => id === stage);
    this.link.send({ type: 'tap', stage: Math.max(0, index) });
  }

  private followRegion(): void {
    const { stage, band } = this.selection.store.getState();
    this.audition.followRegion(openRegion(this.lane.lane, stage, band));
  }

  private rememberView(): void {
    const { id } = this.track.details.track;
    const { audio } = this.track.store.getState();
    const { stage, band } = this.selection.store.getState();
    const seconds = audio && this.board.latest ? this.board.latest.frame / audio.sampleRate : readView(id).seconds;
    writeView(id, {
      version: this.lane.version.id,
      openStage: stage,
      openBand: band,
      loop: this.transport.store.getState().loop,
      seconds,
    });
  }

  // Opening and closing

  /** Fetches and decodes the mix, then begins to measure and to play, at a second of the track where one is asked for. */
  async open(askedSecond: number | null = null): Promise<void> {
    const { mix, track } = this.track.details;
    void this.lane.restore();
    if (mix?.status !== 'ready') return;
    try {
      void this.showKept(mix.id);
      this.refreshEncodes();
      const audio = await this.track.fetchMix();
      this.impulses = new Impulses(mix.source.sampleRate, (name, impulse) => this.addImpulse(name, impulse));
      await this.impulses.need(this.lane.lane).catch((error: Error) => this.replaceImpulses(error));
      if (this.closed) return;
      const { queue, budget } = openTrackMeasuring(audio, mix.report?.loudest ?? null);
      this.queue = queue;
      this.impulses.giveTo((name, impulse) => queue.addImpulse(name, impulse));
      this.measurements.open(queue);
      const levels = new LevelRunner();
      this.audition.open(audio, new PassageLevels(levels), queue);
      const options = {
        audio,
        lane: this.lane.lane,
        taps: this.taps,
        instruments: this.rings,
        impulses: this.impulses.all(),
      };
      const player = await Player.open(
        options,
        (readings) => this.heard(readings),
        () => this.playerFailed(),
      );
      if (this.closed) return void player.close();
      this.link.attach(player);
      this.link.setVolume(listeningGainDb());
      this.track.ready(audio);
      // The lane may have been changed while the player was being made.
      this.audition.follow(this.lane.lane);
      this.workshop = {
        ...{ queue, budget, levels, sampleRate: audio.sampleRate },
        impulsesFor: (lane) => this.impulsesFor(lane),
      };
      this.candidates.open(this.workshop);
      this.candidates.begin();
      this.audition.begin();
      this.transport.begin(readView(track.id).seconds * audio.sampleRate);
      if (askedSecond !== null) this.navigation.toSecond(askedSecond);
      this.link.send(this.instruments);
      this.tapStage();
      this.followRegion();
      // After the player is there: sound does not wait for figures.
      this.measurements.follow(this.lane.lane);
    } catch (error) {
      this.track.report(sentenceOf(error));
    }
  }

  /** Shows what was measured of the lane the last time. */
  private async showKept(mixId: string): Promise<void> {
    const { version, lane } = this.lane;
    const measurement = await this.keeper.find(mixId, version.id, lane);
    if (measurement && !this.closed && this.lane.lane === lane) this.measurements.show(lane, measurement);
  }

  close(): void {
    this.closed = true;
    this.unfollowVolume();
    this.keeper.close();
    this.encodes.close();
    this.transport.close();
    this.rememberView();
    void this.lane.flush();
    this.candidates.close();
    this.measurements.close();
    this.link.close();
  }

  private heard(readings: LiveReadings): void {
    this.board.push(readings);
    this.transport.report(readings.playing, readings.frame);
    this.audition.heard(readings);
  }

  private playerFailed(): void {
    this.transport.report(false, this.board.latest?.frame ?? 0);
    this.track.report(
      'Playback has stopped: something went wrong on our side. Your lane is safe; reload the page to listen again.',
    );
  }

  // Impulse responses

  /** An uploaded impulse response that is here. */
  impulseNamed(name: string): ImpulseResponse | undefined {
    return this.impulses?.get(name);
  }

  /** What finds settings for this mix; whoever asked closes it. Throws with a sentence while it can’t. */
  async solver(lane: Lane): Promise<SolverRunner> {
    const { audio, details } = this.track.store.getState();
    const report = details.mix?.report;
    if (!audio || !report) throw new Error('The mix is still loading. Try again in a moment.');
    return new SolverRunner(audio, report, await this.impulsesFor(lane));
  }

  private async impulsesFor(lane: Lane): Promise<Record<string, ImpulseResponse>> {
    await this.impulses?.need(lane);
    return this.impulses?.all() ?? {};
  }

  private addImpulse(name: string, impulse: ImpulseResponse): void {
    this.link.send({ type: 'impulse', name, impulse });
    this.queue?.addImpulse(name, impulse);
    this.track.addImpulse(name);
  }

  private replaceImpulses(error: Error): void {
    this.track.report(sentenceOf(error));
    this.lane.replaceImpulses((name) => !this.impulses?.get(name));
  }

  // What touches more than one part

  /** Opens a stage; what the one before removes is not heard any longer. */
  openStage(id: string): void {
    if (this.audition.store.getState().hearsRemoved) this.audition.hearRemoved(null);
    this.selection.openStage(id);
    this.audition.hearRegion(false);
  }

  addStage(kind: StageKind, at: number): void {
    const stage = newStage(kind, crypto.randomUUID());
    if (this.lane.insert(`Add ${STAGES[kind].title.toLowerCase()}`, at, stage)) this.openFocused(stage.id);
  }

  /** Opens a stage without the mouse: its stop takes the focus. */
  openFocused(id: string): void {
    this.openStage(id);
    this.selection.focusStage(id);
  }

  /** Inserts two limiters: one for character, then one as a safety. */
  addLimiterPair(at: number): void {
    const pair = LIMITER_PAIR.map((limiter): Stage => ({
      ...limiter,
      id: crypto.randomUUID(),
      kind: 'limiter',
      on: true,
    }));
    if (this.lane.insert('Add two limiters', at, ...pair)) this.openFocused(pair[0].id);
  }

  /** Offers stages to add after the open one. */
  offerStages(): void {
    const { stages } = this.lane.lane;
    const open = stages.findIndex(({ id }) => id === this.selection.store.getState().stage);
    this.selection.offerStages(stages.length < MAX_STAGES ? open + 1 : null);
  }

  duplicateStage(id: string): void {
    const copy = this.lane.duplicate(id);
    if (copy) this.openStage(copy);
  }

  removeStage(id: string): void {
    const next = neighbourOf(this.lane.lane.stages, id);
    this.lane.remove(id);
    if (next) this.openStage(next.id);
  }

  removeCrossover(index: number): void {
    this.lane.removeCrossover(index);
    const { band } = this.selection.store.getState();
    this.selection.openBand(Math.min(band, this.lane.lane.crossovers.frequenciesHz.length));
  }

  /** Sets up instruments at places of the lane; none: nowhere. */
  measureAt(places: readonly InstrumentPlace[], ppm: PpmType): void {
    this.instruments = { type: 'instruments', places, ppm };
    this.link.send(this.instruments);
  }

  /** Begins a blind test of some candidates, by their ids, in a passage. */
  async beginBlindTest({
    ids,
    ...plan
  }: Pick<BlindPlan, 'kind' | 'trials' | 'passage'> & { ids: string[] }): Promise<void> {
    const { workshop, candidates } = this;
    if (!workshop) return;
    const buffers = this.audition.buffers();
    const heard = ids.flatMap((id) => {
      const buffer = Object.hasOwn(buffers, id) ? buffers[id] : null;
      const place = candidates.placeAt(id, plan.passage.start);
      return buffer ? [{ name: candidates.entry(id)?.full ?? '', buffer, place }] : [];
    });
    if (heard.length < ids.length || this.measurements.store.getState().share !== null)
      return this.blind.refuse('The master is still being rendered. Try again when its figures are there.');
    await this.blind.begin({ ...plan, candidates: heard, sampleRate: workshop.sampleRate }, workshop.levels);
  }

  /** Compares with the lane without a stage that is on, or ends that comparison. */
  hearWithout(id: string): void {
    const compared = this.candidates.entry(candidateId({ kind: 'without', stage: id }));
    if (compared) this.audition.endWithout(id);
    else if (this.lane.stage(id)?.on) this.audition.hearWithout(id);
  }

  /** Goes to the next alternative of a stage, and after the last to the first. */
  nextAlternative(id: string): void {
    const stage = this.lane.stage(id);
    if (!stage) return;
    const list = alternativesOf(stage);
    const place = (heardAlternative(stage) + 1) % list.length;
    if (list.length > 1)
      this.lane.changeAlternatives(id, `${stageTitle(stage)}: ${list[place].name}`, (each) =>
        withAlternativeHeard(each, place),
      );
  }

  /** Makes the open stage ready for a sweep, if it can, or leaves it. */
  armSweep(on: boolean): void {
    const stage = this.lane.stage(this.selection.store.getState().stage);
    this.selection.armSweep(on && stage !== undefined && traitsOf(stage).sweeps === true);
  }

  // Versions and tracks

  async switchVersion(id: string): Promise<void> {
    try {
      await this.lane.openVersion(async () => (await this.track.refresh()).versions.find((other) => other.id === id));
    } catch (error) {
      this.track.report(sentenceOf(error));
    }
  }

  /** Measures the lane of a version to be looked at. Rejects with a sentence. */
  async measureVersion(subject: string, lane: Lane, way: OnItsWay): Promise<Measurement> {
    if (!this.workshop) throw new Error('The mix is still loading. Try again in a moment.');
    const { measurement, release } = await measureLane({ subject, lane, priority: 'visible' }, this.workshop, way);
    // Only its figures are wanted.
    release();
    return measurement;
  }

  /** Balance by third-octaves of a rendered signal of this track. Rejects with a sentence. */
  balanceOf({ left, right }: StereoBuffer): Promise<BalanceBand[]> {
    if (!this.workshop) return Promise.reject(new Error('The mix is still loading. Try again in a moment.'));
    return this.workshop.levels.balance({ left, right, sampleRate: this.workshop.sampleRate });
  }

  /** Inserts an equalizer with bands that bring the master closer to a reference. False where there is no room for it. */
  addCloser(reference: string, bands: EqualizerBand[]): boolean {
    const stage = newStage('equalizer', crypto.randomUUID());
    const settings = { ...stage.settings, bands };
    const { stages } = this.lane.lane;
    const label = `Closer to ${reference}`.slice(0, 60);
    if (!this.lane.insert(label, beforeLastLimiters(stages), { ...stage, name: 'Closer', settings })) return false;
    this.openStage(stage.id);
    return true;
  }

  /** The highest true peaks of what plays from a buffer, and every over. Rejects with a sentence. */
  peaksOf(buffer: StereoBuffer): Promise<PeakPlace[]> {
    if (!this.workshop) return Promise.reject(new Error('The mix is still loading. Try again in a moment.'));
    return this.workshop.levels.peaks({ ...buffer, sampleRate: this.workshop.sampleRate });
  }

  /** The open version as the server has it. */
  async savedVersion(): Promise<VersionState | undefined> {
    return (await this.track.refresh()).versions.find(({ id }) => id === this.lane.version.id);
  }

  /** Keeps the lane as a new version when another window changed the open one, and opens that. */
  async keepMine(name: string): Promise<void> {
    const kept = await this.lane.keepMine(name);
    await this.lane.openVersion(async () => {
      await this.track.refresh();
      return kept;
    });
  }

  /** Makes a new version of the lane, as it is or as it was after a step, and opens that. */
  async copyVersion(name: string, step?: number): Promise<void> {
    await this.lane.openVersion(async () => {
      const copy = await this.lane.copyVersion(name, step);
      await this.track.refresh();
      return copy;
    });
  }

  /** Makes a version of each draft and opens the last. Throws with a sentence. */
  async addDrafts(drafts: readonly { name: string; lane: Lane }[]): Promise<[string, string]> {
    const ids: string[] = [];
    for (const { name, lane } of drafts) {
      await this.copyVersion(name);
      this.lane.beginFrom('First draft', lane);
      ids.push(this.lane.version.id);
    }
    await this.lane.requireSaved();
    await this.track.refresh();
    return [ids[0], ids[1]];
  }

  async renameVersion(id: string, name: string): Promise<void> {
    await send(`/api/versions/${id}`, { method: 'PATCH', body: { name } });
    await this.track.refresh();
    if (id === this.lane.version.id) this.lane.rename(name);
  }

  async orderVersions(ids: string[]): Promise<void> {
    await send(`/api/tracks/${this.track.details.track.id}/version-order`, { method: 'PUT', body: { ids } });
    await this.track.refresh();
  }

  /** Deletes a version; of the open one, the first of the others takes its place. */
  async removeVersion(id: string): Promise<void> {
    await this.lane.openVersion(async () => {
      await send(`/api/versions/${id}`, { method: 'DELETE' });
      const [first] = (await this.track.refresh()).versions;
      return id === this.lane.version.id ? first : undefined;
    });
  }

  async restoreVersion(id: string): Promise<void> {
    await send('/api/removed/restored', { method: 'POST', body: { kind: 'version', id } });
    await this.track.refresh();
  }

  /** Has another mix used; the page must then be opened again. False when it was not possible. */
  async chooseMix(mixId: string): Promise<boolean> {
    await this.lane.flush();
    return this.track.chooseMix(mixId);
  }

  /** The chosen version of another track: what is delivered of it. */
  private async versionOf(trackId: string): Promise<VersionState> {
    return chosenVersion(await api(trackDetailsSchema, `/api/tracks/${trackId}`));
  }

  /** Begins all tracks of the release from a house lane, in their chosen versions. Throws with a sentence. */
  async beginAllFrom({ name, lane }: Pick<HouseLane, 'name' | 'lane'>): Promise<void> {
    const { release, track } = this.track.details;
    const label = `Begin from ${name}`;
    const { tracks } = await api(releaseDetailSchema, `/api/releases/${release.id}`);
    for (const { id } of tracks) {
      if (id === track.id) continue;
      const version = await this.versionOf(id);
      await this.lane.replaceLane(version, withEdgesOf(lane, version.lane), label);
    }
    this.lane.beginFrom(label.slice(0, MAX_LABEL), lane);
  }

  /** Copies the lane to other tracks, into their chosen versions; they keep their edges. Throws with a sentence. */
  async copyLaneTo(trackIds: readonly string[]): Promise<void> {
    const { lane } = this.lane;
    const label = `Lane of “${this.track.details.track.title}”`;
    for (const id of trackIds) {
      const version = await this.versionOf(id);
      await this.lane.replaceLane(version, withEdgesOf(lane, version.lane), label);
    }
  }

  /**
   * Copies a stage into the lane of another track, into its chosen version. Gives the name of that
   * version. Throws with a sentence.
   */
  async copyStageTo(trackId: string, id: string): Promise<string> {
    const stage = this.lane.stage(id);
    if (!stage) throw new Error('The stage could not be copied: it no longer exists.');
    const version = await this.versionOf(trackId);
    await this.lane.copyStageTo(version, stage, this.track.details.track.title);
    return version.name;
  }
}
