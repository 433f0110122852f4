import { createStore } from 'zustand/vanilla';
import { sentenceOf } from '../../core/sentence-of';
import { MAX_LABEL, type Pin, type VersionState, versionStateSchema } from '../../contracts/version';
import { withEverySettings } from '../../core/lane/alternatives';
import { withAutoMakeup } from '../../core/lane/auto-makeup';
import { withBandSplit, withCrossoverRemoved } from '../../core/lane/crossover-edits';
import { withEdges, withEdgesOf } from '../../core/lane/lane-edges';
import { MAX_STAGES, stageTitle, type Lane, type Stage } from '../../core/lane/schema';
import { placeFor, withSetting, withStageChanged, withStageMoved, withStagesAt } from '../../core/lane/stage-edits';
import { withCrossoverAt, type Crossovers } from '../../core/stages/bands/crossovers';
import type { Edges } from '../../core/sequence/edges';
import { STAGES, traitsOf } from '../../core/stages/registry';
import type { JointReading } from '../../engine/measure/measurement';
import { api, send } from '../api';
import { browserOutbox, NO_OUTBOX } from './lane-outbox';
import { LaneSaver, serverHistory, type Direction, type LaneHistory } from './lane-saver';
import { withCopiedPins, withoutBandPins } from './pins';

export interface LaneState {
  version: VersionState;
  /** `waiting`: for a server that can't be reached; `conflict`: the version was changed elsewhere meanwhile. */
  saving: 'saved' | 'saving' | 'waiting' | 'failed' | 'conflict';
  /** Labels of the steps that are not saved yet. */
  unsaved: readonly string[];
  /** What undo and redo would take; null when there is nothing. */
  undo: string | null;
  redo: string | null;
}

/** The lane of the open version: edits, history, saving and pins. Whoever plays or measures it watches its store. */
export class LaneEditor {
  readonly store;
  private readonly saver: LaneSaver;
  private pinsSaved: Promise<void> = Promise.resolve();
  /** The step through the history, or the opening of another version, under way; the next one waits for it. */
  private turn: Promise<unknown> = Promise.resolve();

  /** `report` shows a problem in words, or takes it away. */
  constructor(
    version: VersionState,
    private readonly report: (problem: string | null) => void,
    private readonly history: LaneHistory = serverHistory,
  ) {
    const { undo, redo } = version;
    this.store = createStore<LaneState>(() => ({ version, saving: 'saved', unsaved: [], undo, redo }));
    const outbox = history === serverHistory ? browserOutbox() : NO_OUTBOX;
    this.saver = new LaneSaver(this.store, report, history, outbox);
  }

  get version(): VersionState {
    return this.store.getState().version;
  }

  get lane(): Lane {
    return this.version.lane;
  }

  stage(id: string | null): Stage | undefined {
    return this.lane.stages.find((stage) => stage.id === id);
  }

  /** The version has another name now. */
  rename(name: string): void {
    this.store.setState({ version: { ...this.version, name } });
  }

  // Edits

  /** Changes the stages. */
  edit(label: string, change: (stages: Stage[]) => Stage[]): void {
    this.editLane(label, (lane) => ({ ...lane, stages: change(lane.stages) }));
  }

  /** Changes the lane as a whole, crossovers included. */
  editLane(label: string, change: (lane: Lane) => Lane): void {
    const before = this.lane;
    const lane = change(before);
    if (lane === before) return;
    try {
      this.applyLane(lane);
    } finally {
      // Whatever follows the lane can fail; the step is kept.
      this.saver.step(label, before);
    }
  }

  /** Puts a lane from elsewhere on this track, which keeps its edges. */
  beginFrom(label: string, lane: Lane): void {
    this.editLane(label, (before) => withEdgesOf(lane, before));
  }

  /** Moves where the track starts and ends. */
  setEdges(label: string, edges: Edges): void {
    this.editLane(label, (lane) => withEdges(lane, edges));
  }

  /** Inserts stages where there is room for them. */
  insert(label: string, at: number, ...added: Stage[]): boolean {
    const stages = withStagesAt(this.lane.stages, at, ...added);
    if (!stages) return false;
    this.edit(label, () => stages);
    return true;
  }

  /** Inserts a copy of a stage right after it, pins included; gives the id of the copy, or null where there is no room. */
  duplicate(id: string): string | null {
    const index = this.lane.stages.findIndex((stage) => stage.id === id);
    if (index < 0) return null;
    const original = this.lane.stages[index];
    const copy = { ...structuredClone(original), id: crypto.randomUUID() };
    if (!this.insert(`Duplicate ${stageTitle(original)}`, index + 1, copy)) return null;
    this.setPins(withCopiedPins(this.pins, id, copy.id));
    return copy.id;
  }

  remove(id: string): void {
    const stage = this.stage(id);
    if (stage) this.edit(`Remove ${stageTitle(stage)}`, (stages) => stages.filter((each) => each !== stage));
  }

  move(id: string, to: number): void {
    this.edit('Move stage', (stages) => withStageMoved(stages, id, to));
  }

  toggle(id: string): void {
    const stage = this.stage(id);
    if (!stage) return;
    this.edit(`${stageTitle(stage)} ${stage.on ? 'off' : 'on'}`, (stages) =>
      withStageChanged(stages, id, ({ on, ...each }) => ({ ...each, on: !on })),
    );
  }

  /** Gives a stage its own name, or that of its kind again when it is empty. */
  nameStage(id: string, name: string): void {
    this.edit('Name stage', (stages) =>
      withStageChanged(stages, id, ({ name: _, ...stage }) => (name ? { ...stage, name } : stage)),
    );
  }

  /** Changes which alternatives a stage has, or which one is heard. */
  changeAlternatives(id: string, label: string, change: (stage: Stage) => Stage): void {
    this.edit(label, (stages) => withStageChanged(stages, id, change));
  }

  /** New settings for one stage. */
  setStage<Kept extends Stage>({ id }: Kept, label: string, settings: Partial<Kept['settings']>): void {
    this.edit(label, (stages) =>
      withStageChanged(stages, id, (stage) => ({ ...stage, settings: { ...stage.settings, ...settings } }) as Stage),
    );
  }

  /** A new value for one setting of a stage. */
  setSetting(id: string, label: string, setting: string, value: unknown): void {
    this.edit(label, (stages) => withStageChanged(stages, id, (stage) => withSetting(stage, setting, value)));
  }

  /** Changes the crossovers of the lane. */
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
  }

  /** Sets auto makeup from what was measured of the lane as it is; part of the step that was measured. */
  applyAutoMakeup(joints: readonly JointReading[]): void {
    const before = this.lane;
    const matched = withAutoMakeup(before, joints);
    if (!matched) return;
    this.applyLane(matched);
    this.saver.amend(before);
  }

  /** Gives stages whose uploaded impulse response can't be had one that is always there. */
  replaceImpulses(missing: (name: string) => boolean): void {
    this.edit('Replace a room', (stages) =>
      stages.map((stage) => {
        const { impulse, withoutImpulse } = traitsOf<Stage>(stage);
        const name = impulse?.(stage.settings);
        return name && withoutImpulse && missing(name)
          ? withEverySettings(stage, (settings) => withoutImpulse(settings))
          : stage;
      }),
    );
  }

  // Pins

  get pins(): Pin[] {
    return this.version.pins;
  }

  /** Keeps the remembered positions of controls; they are not part of the history. */
  setPins(pins: Pin[]): void {
    const { version } = this;
    this.store.setState({ version: { ...version, pins } });
    this.pinsSaved = send(`/api/versions/${version.id}/pins`, { method: 'PUT', body: { pins }, keepalive: true }).catch(
      (error: Error) => this.report(sentenceOf(error)),
    );
  }

  /** Removes a band's pins with it. */
  dropBandPins(stage: string, band: number): void {
    const moved = withoutBandPins(this.pins, stage, band);
    if (moved.length !== this.pins.length || moved.some((pin, i) => pin !== this.pins[i])) this.setPins(moved);
  }

  // History and versions

  /** Goes on with what a page that is gone did not get to save. */
  restore(): Promise<void> {
    return this.saver.restore();
  }

  /** Saves what is not saved yet. */
  flush(): Promise<void> {
    return this.saver.flush();
  }

  /** One step back or forward in the history; those that are asked for quickly follow one another. */
  step(direction: Direction): Promise<void> {
    return this.inTurn(() => this.takeStep(direction));
  }

  private async takeStep(direction: Direction): Promise<void> {
    await this.flush();
    await this.pinsSaved;
    if (direction === 'undo' ? this.saver.undo() : this.saver.redo()) return this.flush();
    if (this.store.getState()[direction] === null) return;
    // A step from before this page was opened: only the server knows it.
    try {
      const { id, step } = this.version;
      this.applyVersion(await this.history.go(id, direction, step));
    } catch (error) {
      this.report(sentenceOf(error));
    }
  }

  /** Goes through the history to a step. */
  async goTo(step: number): Promise<void> {
    for (let at = this.version.step; at !== step; at = this.version.step) {
      await this.step(step < at ? 'undo' : 'redo');
      // Without the server it is one step at a time.
      if (this.version.step === at) return;
    }
  }

  /**
   * Opens the version that is got, once all of the open one is saved; nothing when there is none. A step that is asked for
   * meanwhile is one of the new version. Throws a sentence when it can't be done now.
   */
  openVersion(get: () => Promise<VersionState | undefined>): Promise<void> {
    return this.inTurn(async () => {
      await this.requireSaved();
      const version = await get();
      // What was changed meanwhile belongs to the version that is left.
      await this.requireSaved();
      if (version) this.applyVersion(version);
    });
  }

  private inTurn(work: () => Promise<void>): Promise<void> {
    const done = this.turn.then(work);
    this.turn = done.catch(() => {});
    return done;
  }

  private applyVersion(version: VersionState): void {
    this.store.setState({ version });
    this.saver.see(version);
  }

  /** Saves, or throws a sentence when it can't be done now. */
  async requireSaved(): Promise<void> {
    await this.flush();
    if (this.store.getState().unsaved.length > 0)
      throw new Error('The last changes are not saved yet. They are sent when the server is back; try again then.');
  }

  /** Of two windows that changed the version, the other was right. */
  useTheirs(theirs: VersionState): void {
    this.saver.drop();
    this.applyVersion(theirs);
  }

  /** Of two windows that changed the version, this one was right: its lane becomes the next step. */
  async useMine(theirs: VersionState): Promise<void> {
    this.applyVersion({ ...theirs, lane: this.lane, pins: this.pins });
    this.saver.rebase();
    await this.flush();
  }

  /** Keeps the lane as a new version and gives that, saved; the open version stays as the other window left it. */
  async keepMine(name: string): Promise<VersionState> {
    const path = `/api/versions/${this.version.id}/copies`;
    const copy = await api(versionStateSchema, path, { method: 'POST', body: { name } });
    const step = { lane: this.lane, label: this.store.getState().unsaved.at(-1) ?? 'Kept', after: copy.step };
    const saved = await api(versionStateSchema, `/api/versions/${copy.id}/lane`, { method: 'PUT', body: step });
    this.saver.drop();
    return saved;
  }

  /** Keeps the lane as it is saved, now or after a step, as a new version and gives that; it is not open yet. */
  copyVersion(name: string, step?: number): Promise<VersionState> {
    const body = { name, step };
    return api(versionStateSchema, `/api/versions/${this.version.id}/copies`, { method: 'POST', body });
  }

  /** Copies a stage into another version's lane, before a stage that ends it. Throws with a sentence. */
  async copyStageTo(version: VersionState, stage: Stage, from: string): Promise<void> {
    const { lane } = version;
    const copy = { ...stage, id: crypto.randomUUID() };
    const stages = withStagesAt(lane.stages, placeFor(lane.stages, stage), copy);
    if (!stages) throw new Error(`The lane of that track already has ${MAX_STAGES} stages.`);
    const label = `Copy of ${STAGES[stage.kind].title.toLowerCase()} from “${from}”`;
    await this.replaceLane(version, { ...lane, stages }, label);
  }

  /** Gives a version that is not open another lane, as a step of its history. Throws with a sentence. */
  async replaceLane(version: VersionState, lane: Lane, label: string): Promise<void> {
    const body = { lane, label: label.slice(0, MAX_LABEL), after: version.step };
    await api(versionStateSchema, `/api/versions/${version.id}/lane`, { method: 'PUT', body });
  }

  private applyLane(lane: Lane): void {
    this.store.setState({ version: { ...this.version, lane } });
  }
}
