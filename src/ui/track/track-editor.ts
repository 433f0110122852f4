import { createStore, type StoreApi } from 'zustand/vanilla';
import { withBandSplit, withCrossoverRemoved } from '../../core/lane/crossover-edits';
import { MAX_STAGES, newStage, type Lane, type Stage } from '../../core/lane/schema';
import { neighbourOf, placeFor, withStageChanged, withStageMoved, withStagesAt } from '../../core/lane/stage-edits';
import { withCrossoverAt, type Crossovers } from '../../core/stages/bands/crossovers';
import type { ImpulseResponse } from '../../core/stages/definition';
import { LIMITER_PAIR } from '../../core/stages/limiter/pair';
import type { StageKind } from '../../core/stages/registry';
import { decodeMix, Player } from '../../engine/live/player';
import { makeTaps, type Taps } from '../../engine/live/protocol';
import { PassClient } from '../../engine/measure/client';
import type { Measurement } from '../../engine/measure/measurement';
import type { Pin, VersionState } from '../../contracts/version';
import type { Workspace } from '../../contracts/track';
import { api } from '../api';
import { Comparison } from './comparison';
import { withAutoMakeup } from '../../core/lane/auto-makeup';
import { LaneSaver } from './lane-saver';
import { Listening } from './listening';
import { LiveBoard } from './live-board';
import { LoudnessRun } from './loudness-run';
import { downloadMix } from './mix-download';
import { withCopiedPins, withoutBandPins } from './pins';
import { Impulses } from './impulses';
import { readView, writeView } from './view-memory';
import { openingState, type WorkspaceState } from './track-state';

const PASS_DELAY_MS = 60;

/** One open track: its lane, what is heard of it, and the full pass. Everything in it works without React. */
export class WorkspaceSession {
  readonly store: StoreApi<WorkspaceState>;
  readonly board = new LiveBoard();
  readonly taps: Taps = makeTaps();
  readonly listening: Listening;
  readonly comparison: Comparison;
  private readonly saver: LaneSaver;
  private passClient: PassClient | null = null;
  private impulses: Impulses | null = null;
  private passTimer: ReturnType<typeof setTimeout> | undefined;
  /** Whether a lane waits to be measured. */
  private passDue = false;
  private pinsSaved: Promise<void> = Promise.resolve();
  private closed = false;

  constructor(workspace: Workspace) {
    this.store = createStore<WorkspaceState>(() => openingState(workspace, readView(workspace.track.id)));
    this.listening = new Listening(this.store, this.board);
    this.comparison = new Comparison(this.store, this.listening, () => this.impulses);
    this.saver = new LaneSaver(this.store);
    this.store.subscribe(() => this.rememberView());
  }

  private rememberView(): void {
    const { workspace, version, openStage, openBand, loop, audio } = this.state;
    const seconds = audio && this.board.latest ? this.board.latest.frame / audio.sampleRate : undefined;
    const view = { version: version.id, openStage, openBand, loop };
    writeView(workspace.track.id, { ...view, seconds: seconds ?? readView(workspace.track.id).seconds });
  }

  private get state(): WorkspaceState {
    return this.store.getState();
  }

  private patch(change: Partial<WorkspaceState>): void {
    this.store.setState(change);
  }

  /** Shows a problem in words; null takes it away. */
  report(problem: string | null): void {
    this.patch({ problem });
  }

  /** Fetches and decodes the mix, then opens the player and the first full pass. */
  async open(): Promise<void> {
    const { mix, track } = this.state.workspace;
    if (mix?.status !== 'ready') return;
    try {
      const file = await downloadMix(mix.id, (arrived) => this.patch({ arrived }));
      const audio = await decodeMix(file, mix.source.sampleRate);
      this.impulses = new Impulses(mix.source.sampleRate, (name, response) => this.addImpulse(name, response));
      await this.impulses.need(this.state.version.lane).catch((error: Error) => this.replaceRooms(error));
      if (this.closed) return;
      const { lane } = this.state.version;
      this.passClient = new PassClient(audio, mix.report?.loudest ?? null, {
        onProgress: (share) => this.patch({ passShare: share }),
        onResult: (pass) => {
          // What is about to be measured is not up to date.
          this.patch({ pass, passShare: this.passDue ? 0 : null, passProblem: null });
          this.comparison.matchLevels();
          this.holdLoudness(pass);
        },
        onFailure: (passProblem) => this.patch({ passProblem, passShare: null }),
      });
      this.impulses.giveTo((name, response) => this.passClient?.addImpulse(name, response));
      this.patch({ passShare: 0 });
      this.passClient.run(lane);
      const impulses: Record<string, ImpulseResponse> = {};
      this.impulses.giveTo((name, response) => (impulses[name] = response));
      const { taps, listening } = this;
      const player = await Player.open({ audio, lane, taps, impulses }, (readings) => listening.heard(readings));
      if (this.closed) return void player.close();
      this.patch({ audio, arrived: 1 });
      listening.begin(player, readView(track.id).seconds);
    } catch (error) {
      this.report((error as Error).message);
    }
  }

  close(): void {
    this.closed = true;
    this.rememberView();
    clearTimeout(this.passTimer);
    void this.flush();
    this.passClient?.close();
    this.comparison.end();
    this.listening.end();
  }

  /** An impulse response that was put in and is here. */
  impulseNamed(name: string): ImpulseResponse | undefined {
    return this.impulses?.get(name);
  }

  private addImpulse(name: string, response: ImpulseResponse): void {
    this.listening.send({ type: 'response', name, response });
    this.passClient?.addImpulse(name, response);
    this.comparison.addImpulse(name, response);
    this.patch({ impulses: [...this.state.impulses, name] });
  }

  /** Gives rooms whose impulse response cannot be had one that is always there, and says so. */
  private replaceRooms({ message }: Error): void {
    this.report(message);
    this.edit('Replace a room', (stages) =>
      stages.map((stage) =>
        stage.kind === 'room' && stage.settings.file && !this.impulses?.get(stage.settings.file)
          ? { ...stage, settings: { ...stage.settings, response: 'studio', file: null } }
          : stage,
      ),
    );
  }

  /** Drives lanes to a loudness in LUFS by passes of their own, until it is closed. Fails for lanes while nothing is decoded. */
  measureAt(targetLufs: number): LoudnessRun {
    const { audio, workspace } = this.state;
    if (!audio) throw new Error('The mix is still on its way. Try again in a moment.');
    const run = new LoudnessRun(audio, workspace.mix?.report?.loudest ?? null, targetLufs);
    this.impulses?.giveTo((name, response) => run.addImpulse(name, response));
    return run;
  }

  // What is open

  openStage(id: string): void {
    if (this.state.hearsRemoved) this.listening.hearRemoved(null);
    this.patch({ openStage: id, openBand: 0, soloRegion: false, sweeping: false });
    this.listening.openStage();
  }

  openBand(index: number): void {
    this.patch({ openBand: index });
    this.listening.followRegion();
  }

  /** Makes the open equalizer ready for a sweep, or leaves it. */
  armSweep(on: boolean): void {
    const { version, openStage } = this.state;
    const stage = version.lane.stages.find(({ id }) => id === openStage);
    this.patch({ sweeping: on && stage?.kind === 'equalizer' });
  }

  private keepOpenStage({ lane: { stages } }: VersionState): void {
    if (!stages.some(({ id }) => id === this.state.openStage))
      this.patch({ openStage: stages[0]?.id ?? null, openBand: 0 });
    this.listening.openStage();
  }

  // The lane

  /** Lets a changed lane be heard that is not kept; null goes back to the lane as it is. */
  preview(change: ((stages: Stage[]) => Stage[]) | null): void {
    const { lane } = this.state.version;
    this.listening.send({ type: 'lane', lane: change ? { ...lane, stages: change(lane.stages) } : lane });
  }

  /** Changes the lane: heard at once, saved in a moment, and measured by a new full pass. */
  edit(label: string, change: (stages: Stage[]) => Stage[]): void {
    this.editLane(label, (lane) => ({ ...lane, stages: change(lane.stages) }));
  }

  /** Changes the lane as a whole, its crossovers included. */
  editLane(label: string, change: (lane: Lane) => Lane): void {
    const { version } = this.state;
    const lane = change(version.lane);
    if (lane === version.lane) return;
    this.keep(lane);
    this.saver.step(label);
  }

  private keep(lane: Lane): void {
    const { version } = this.state;
    this.take({ ...version, lane });
    if (!lane.stages.some(({ id }) => id === this.state.openStage)) this.keepOpenStage({ ...version, lane });
  }

  /** Has stages that hold their loudness do so by the last full pass. */
  private holdLoudness({ joints }: Measurement): void {
    const { version, passShare } = this.state;
    // When a newer change is about to be measured, that measurement counts.
    const held = passShare === null ? withAutoMakeup(version.lane, joints) : null;
    if (!held) return;
    this.keep(held);
    this.saver.amend();
  }

  addStage(kind: StageKind, at: number): void {
    this.insert(`Add ${kind}`, at, newStage(kind, crypto.randomUUID()));
  }

  /** Puts two limiters in: one for character, then one as a safety. */
  addLimiterPair(at: number): void {
    const pair = LIMITER_PAIR.map((limiter): Stage => ({
      ...limiter,
      id: crypto.randomUUID(),
      kind: 'limiter',
      on: true,
    }));
    this.insert('Add two limiters', at, ...pair);
  }

  /** Puts a copy of a stage right behind it. */
  duplicateStage(id: string): void {
    const { stages } = this.state.version.lane;
    const index = stages.findIndex((stage) => stage.id === id);
    if (index < 0) return;
    const copy = { ...structuredClone(stages[index]), id: crypto.randomUUID() };
    if (!this.insert(`Duplicate ${copy.kind}`, index + 1, copy)) return;
    this.setPins(withCopiedPins(this.pins, id, copy.id));
  }

  /** Puts stages in where there is room for them, and opens the first. */
  private insert(label: string, at: number, ...added: Stage[]): boolean {
    const stages = withStagesAt(this.state.version.lane.stages, at, ...added);
    if (!stages) return false;
    this.edit(label, () => stages);
    this.openStage(added[0].id);
    return true;
  }

  /**
   * Copies a stage into the lane of another track, into the version that was last open there. Gives the name of that
   * version. Throws with a sentence.
   */
  async copyStageTo(trackId: string, id: string): Promise<string> {
    const stage = this.state.version.lane.stages.find((each) => each.id === id);
    const { versions } = await api<Workspace>(`/api/tracks/${trackId}`);
    const version = versions.find((each) => each.id === readView(trackId).version) ?? versions[0];
    if (!stage || !version) throw new Error('The stage could not be copied: it is no longer there.');
    const { lane } = version;
    const copy = { ...stage, id: crypto.randomUUID() };
    const stages = withStagesAt(lane.stages, placeFor(lane.stages, stage), copy);
    if (!stages) throw new Error(`The lane of that track has ${MAX_STAGES} stages already.`);
    const { track } = this.state.workspace;
    const label = `Copy of ${stage.kind} from “${track.title}”`.slice(0, 80);
    await api<VersionState>(`/api/versions/${version.id}/lane`, {
      method: 'PUT',
      body: { lane: { ...lane, stages }, label, after: version.step },
    });
    return version.name;
  }

  removeStage(id: string): void {
    const { stages } = this.state.version.lane;
    const stage = stages.find((each) => each.id === id);
    if (!stage) return;
    const next = neighbourOf(stages, id);
    this.edit(`Remove ${stage.kind}`, (all) => all.filter((each) => each !== stage));
    this.patch({ openStage: next?.id ?? null, openBand: 0 });
    this.listening.openStage();
  }

  moveStage(id: string, to: number): void {
    this.edit('Move stage', (stages) => withStageMoved(stages, id, to));
    this.listening.openStage();
  }

  toggleStage(id: string): void {
    this.edit('Switch stage', (stages) => withStageChanged(stages, id, (stage) => ({ ...stage, on: !stage.on })));
  }

  /** Calls a stage by a name of its own, or by its kind again when that is empty. */
  nameStage(id: string, name: string): void {
    const { version } = this.state;
    const stages = withStageChanged(version.lane.stages, id, ({ name: _, ...stage }) =>
      name ? { ...stage, name } : stage,
    );
    // Nothing sounds different, and nothing is measured anew.
    this.patch({ version: { ...version, lane: { ...version.lane, stages } } });
    this.saver.step('Name stage');
  }

  /** New settings for one stage. */
  setStage<Kept extends Stage>({ id }: Kept, label: string, settings: Partial<Kept['settings']>): void {
    this.edit(label, (stages) =>
      withStageChanged(stages, id, (stage) => ({ ...stage, settings: { ...stage.settings, ...settings } }) as Stage),
    );
  }

  /** A new value for a numeric setting of a stage. */
  setNumber(id: string, label: string, setting: string, value: number): void {
    this.edit(label, (stages) =>
      withStageChanged(
        stages,
        id,
        (stage) => ({ ...stage, settings: { ...stage.settings, [setting]: value } }) as Stage,
      ),
    );
  }

  /** Moves a crossover of the lane, or gives all of them another phase. */
  setCrossovers(label: string, change: (crossovers: Crossovers) => Crossovers): void {
    this.editLane(label, (lane) => ({ ...lane, crossovers: change(lane.crossovers) }));
  }

  moveCrossover(index: number, frequencyHz: number): void {
    this.setCrossovers(`Move crossover ${index + 1}`, (crossovers) => withCrossoverAt(crossovers, index, frequencyHz));
  }

  splitBand(band: number): void {
    this.editLane(`Split band ${band + 1}`, (lane) => withBandSplit(lane, band));
  }

  removeCrossover(index: number): void {
    this.editLane(`Remove crossover ${index + 1}`, (lane) => withCrossoverRemoved(lane, index));
    this.openBand(Math.min(this.state.openBand, this.state.version.lane.crossovers.frequenciesHz.length));
  }

  /** Shows and plays a version's lane, and has it measured. */
  private take(version: VersionState): void {
    this.patch({ version });
    const { lane } = version;
    if (this.impulses && !this.impulses.has(lane)) {
      // What it needs is fetched first; what was taken meanwhile comes in its place.
      this.impulses.need(lane).then(
        () => this.take(this.state.version),
        (error: Error) => this.replaceRooms(error),
      );
      return;
    }
    this.listening.send({ type: 'lane', lane });
    this.comparison.follow(lane);
    this.listening.followRegion();
    clearTimeout(this.passTimer);
    if (!this.passClient) return;
    this.passDue = true;
    this.patch({ passShare: 0 });
    this.passTimer = setTimeout(() => {
      this.passDue = false;
      this.passClient?.run(lane);
      this.comparison.measure();
    }, PASS_DELAY_MS);
  }

  // Pins

  get pins(): Pin[] {
    return this.state.version.pins;
  }

  /** Keeps the remembered positions of controls; they are no part of the history. */
  setPins(pins: Pin[]): void {
    const { version } = this.state;
    this.patch({ version: { ...version, pins } });
    this.pinsSaved = this.pinsSaved
      .then(() => api<void>(`/api/versions/${version.id}/pins`, { method: 'PUT', body: { pins }, keepalive: true }))
      .catch((error: Error) => this.report(error.message));
  }

  /** Takes a band's pins away with it. */
  dropBandPins(stage: string, band: number): void {
    const moved = withoutBandPins(this.pins, stage, band);
    if (moved.length !== this.pins.length || moved.some((pin, i) => pin !== this.pins[i])) this.setPins(moved);
  }

  // Steps and versions

  /** Saves what is not saved yet. */
  flush(): Promise<void> {
    return this.saver.flush();
  }

  async step(direction: 'undo' | 'redo'): Promise<void> {
    await this.flush();
    await this.pinsSaved;
    if (this.state.saving === 'failed') return;
    try {
      const version = await api<VersionState>(`/api/versions/${this.state.version.id}/${direction}`, {
        method: 'POST',
      });
      this.take(version);
      this.keepOpenStage(version);
    } catch (error) {
      this.report((error as Error).message);
    }
  }

  async switchVersion(id: string): Promise<void> {
    await this.flush();
    const versions = await this.refresh();
    const version = versions.find((other) => other.id === id);
    if (!version) return;
    this.take(version);
    this.keepOpenStage(version);
  }

  async copyVersion(name: string): Promise<void> {
    await this.flush();
    const copy = await api<VersionState>(`/api/versions/${this.state.version.id}/copies`, {
      method: 'POST',
      body: { name },
    });
    await this.refresh();
    this.take(copy);
  }

  /** Has another mix of the track worked on; the page must then be opened anew. False when it was not possible. */
  async chooseMix(mixId: string): Promise<boolean> {
    await this.flush();
    try {
      await api<void>(`/api/tracks/${this.state.workspace.track.id}/mix`, { method: 'PUT', body: { mixId } });
      return true;
    } catch (error) {
      this.report((error as Error).message);
      return false;
    }
  }

  /** Takes what the server knows of the track, apart from the lane that is open. */
  async refresh(): Promise<VersionState[]> {
    const workspace = await api<Workspace>(`/api/tracks/${this.state.workspace.track.id}`);
    this.patch({ workspace });
    return workspace.versions;
  }
}
