import { createStore, type StoreApi } from 'zustand/vanilla';
import { MAX_STAGES, newStage, type Lane, type Stage } from '../../core/lane/schema';
import { withBandSplit, withCrossoverRemoved } from '../../core/lane/crossover-edits';
import { bandRegion, withCrossoverAt, type Crossovers } from '../../core/stages/bands/crossovers';
import type { ImpulseResponse } from '../../core/stages/definition';
import { deEsserBand } from '../../core/stages/de-esser/design';
import { regionBands } from '../../core/stages/equalizer/region';
import type { EqualizerBand } from '../../core/stages/equalizer/settings';
import { LIMITER_PAIR } from '../../core/stages/limiter/pair';
import type { StageKind } from '../../core/stages/registry';
import { levelMatch, type LevelMatch } from '../../engine/live/level-match';
import { decodeMix, Player } from '../../engine/live/player';
import { makeTaps, type LiveReadings, type Loop, type Monitor, type Side, type Taps } from '../../engine/live/protocol';
import { PassClient } from '../../engine/pass/client';

import type { Audio, PassResult } from '../../engine/pass/result';
import type { Pin, VersionState } from '../../exchange/version';
import type { Workspace } from '../../exchange/workspace';
import { api } from '../api';
import { LiveBoard } from './live-board';
import { withHeldLoudness } from './held-loudness';
import { LoudnessRun } from './loudness-run';
import { Responses } from './responses';
import { StageComparison } from './stage-comparison';
import { readView, writeView } from './view-memory';

const SAVE_DELAY_MS = 250;
const PASS_DELAY_MS = 60;

export interface WorkspaceState {
  workspace: Workspace;
  version: VersionState;
  saving: 'saved' | 'saving' | 'failed';
  problem: string | null;
  /** Share of the mix that has arrived; 1 when it can be heard. */
  arrived: number;
  audio: Audio | null;
  openStage: string | null;
  /** Of an equalizer its band, of a stage that works by bands the lane's. */
  openBand: number;
  pass: PassResult | null;
  /** Share of the pass that is done; null when none runs. */
  passShare: number | null;
  passProblem: string | null;
  playing: boolean;
  side: Side;
  monitor: Monitor;
  loop: Loop | null;
  match: LevelMatch;
  /** Whether the match rests on what was played so far, as the full pass is not done. */
  matchEstimated: boolean;
  /** Stage without which the lane is what the master is compared with; null for the untouched mix. */
  against: string | null;
  /** Whether only the region of the open band is heard. */
  soloRegion: boolean;
  /** Whether only what the open stage takes away is heard. */
  hearsRemoved: boolean;
  /** Whether the open equalizer is ready for a sweep. */
  sweeping: boolean;
}

/** One open track: its lane, what is heard of it, and the full pass. Everything in it works without React. */
export class WorkspaceSession {
  readonly store: StoreApi<WorkspaceState>;
  readonly board = new LiveBoard();
  readonly taps: Taps = makeTaps();
  private player: Player | null = null;
  private passClient: PassClient | null = null;
  private responses: Responses | null = null;
  private readonly comparison = new StageComparison(
    () => this.matchLevels(),
    (problem) => this.report(problem),
  );
  /** Bands of the region that is heard alone, as they were last sent. */
  private regionSent = '[]';
  private saveTimer: ReturnType<typeof setTimeout> | undefined;
  private passTimer: ReturnType<typeof setTimeout> | undefined;
  private label = '';
  /** The save under way; the next one waits for it. */
  private save: Promise<void> = Promise.resolve();
  private pinsSaved: Promise<void> = Promise.resolve();
  private dirty = false;
  /** Whether what is not saved yet belongs to the last step. */
  private amends = false;
  private saveFailed = false;
  private closed = false;

  constructor(workspace: Workspace) {
    const view = readView(workspace.track.id);
    const version = workspace.versions.find(({ id }) => id === view.version) ?? workspace.versions[0];
    this.store = createStore<WorkspaceState>(() => ({
      workspace,
      version,
      saving: 'saved',
      problem: null,
      arrived: 0,
      audio: null,
      openStage: version.lane.stages.find(({ id }) => id === view.openStage)?.id ?? version.lane.stages[0]?.id ?? null,
      openBand: view.openBand,
      pass: null,
      passShare: null,
      passProblem: null,
      playing: false,
      side: 'master',
      monitor: 'stereo',
      loop: view.loop,
      match: { mixDb: 0, masterDb: 0 },
      matchEstimated: true,
      against: null,
      soloRegion: false,
      hearsRemoved: false,
      sweeping: false,
    }));
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
    const { mix } = this.state.workspace;
    if (mix?.status !== 'ready') return;
    try {
      const file = await this.fetchMix(mix.id);
      const audio = await decodeMix(file, mix.source.sampleRate);
      this.responses = new Responses(mix.source.sampleRate, (name, response) => this.addResponse(name, response));
      await this.responses.need(this.state.version.lane).catch((error: Error) => this.replaceRooms(error));
      if (this.closed) return;
      const { lane } = this.state.version;
      this.passClient = new PassClient(audio, mix.report?.loudest ?? null, {
        onProgress: (share) => this.patch({ passShare: share }),
        onResult: (pass) => {
          this.patch({ pass, passShare: null, passProblem: null });
          this.matchLevels();
          this.matchMakeups(pass);
        },
        onFailure: (passProblem) => this.patch({ passProblem, passShare: null }),
      });
      this.responses.giveTo((name, response) => this.passClient?.addResponse(name, response));
      this.passClient.run(lane);
      const responses: Record<string, ImpulseResponse> = {};
      this.responses.giveTo((name, response) => (responses[name] = response));
      const player = await Player.open({ audio, lane, taps: this.taps, responses }, (readings) => this.heard(readings));
      if (this.closed) return void player.close();
      this.player = player;
      this.patch({ audio, arrived: 1, passShare: 0 });
      // The lane may have been changed while the player was being made.
      player.send({ type: 'lane', lane: this.state.version.lane });
      player.send({ type: 'loop', loop: this.state.loop });
      const { seconds } = readView(this.state.workspace.track.id);
      if (seconds > 0) player.send({ type: 'seek', frame: seconds * audio.sampleRate });
      this.tapOpenStage();
    } catch (error) {
      this.patch({ problem: (error as Error).message });
    }
  }

  /** An impulse response that was put in and is here. */
  responseNamed(name: string): ImpulseResponse | undefined {
    return this.responses?.get(name);
  }

  private addResponse(name: string, response: ImpulseResponse): void {
    this.player?.send({ type: 'response', name, response });
    this.passClient?.addResponse(name, response);
    this.comparison.addResponse(name, response);
  }

  private async fetchMix(mixId: string): Promise<ArrayBuffer> {
    // The whole file as a range: only then does the answer tell how large it is.
    const response = await fetch(`/api/mixes/${mixId}/audio`, { headers: { Range: 'bytes=0-' } });
    const total = Number(/\/(\d+)$/.exec(response.headers.get('content-range') ?? '')?.[1]);
    if (!response.ok || !response.body || !(total > 0)) {
      throw new Error('The mix could not be fetched. Reload the page to try again.');
    }
    const bytes = new Uint8Array(total);
    const reader = response.body.getReader();
    for (let at = 0; ;) {
      const { done, value } = await reader.read();
      if (done) break;
      bytes.set(value, at);
      at += value.length;
      this.patch({ arrived: (0.9 * at) / total });
    }
    return bytes.buffer;
  }

  close(): void {
    this.closed = true;
    this.rememberView();
    clearTimeout(this.passTimer);
    void this.flush();
    this.passClient?.close();
    this.comparison.end();
    void this.player?.close();
  }

  // Listening

  private heard(readings: LiveReadings): void {
    this.board.push(readings);
    if (readings.playing !== this.state.playing) this.patch({ playing: readings.playing });
    if (this.state.matchEstimated && readings.playing) {
      const { joints } = readings;
      const peak = (index: number) => 20 * Math.log10(Math.max(1e-6, joints[index].truePeak));
      this.sendMatch(
        levelMatch(
          { integratedLufs: readings.mixLufs, truePeakDbtp: peak(0) },
          { integratedLufs: readings.masterLufs, truePeakDbtp: peak(joints.length - 1) },
        ),
      );
    }
  }

  private matchLevels(): void {
    const { pass, against } = this.state;
    const other = against ? this.comparison.reading : pass?.mix;
    this.patch({ matchEstimated: !pass || !other });
    if (pass && other) this.sendMatch(levelMatch(other, pass.master));
    else if (pass && against) this.sendMatch(this.matchAround(against, pass));
  }

  /** What a stage does to loudness and peak, for a comparison before the lane without it was measured. */
  private matchAround(stage: string, { joints }: PassResult): LevelMatch {
    const index = this.state.version.lane.stages.findIndex(({ id }) => id === stage);
    return index < 0 || !joints[index + 1] ? this.state.match : levelMatch(joints[index], joints[index + 1]);
  }

  private sendMatch(match: LevelMatch): void {
    this.player?.send({ type: 'match', ...match });
    this.patch({ match });
  }

  togglePlay(): void {
    if (this.state.playing) this.player?.send({ type: 'pause' });
    else void this.player?.play();
    this.patch({ playing: !this.state.playing });
  }

  seek(frame: number): void {
    this.player?.send({ type: 'seek', frame });
  }

  /** Seconds forward or back from what is heard. */
  skip(seconds: number): void {
    const { audio } = this.state;
    if (audio && this.board.latest) this.seek(this.board.latest.frame + seconds * audio.sampleRate);
  }

  setLoop(loop: Loop | null): void {
    this.patch({ loop });
    this.player?.send({ type: 'loop', loop });
    if (loop) this.seek(loop.start);
  }

  toLoudest(): void {
    const report = this.state.workspace.mix?.report;
    if (report) this.seek(report.loudest.start);
  }

  listen(side: Side): void {
    this.patch({ side });
    this.player?.send({ type: 'listen', side });
  }

  setMonitor(monitor: Monitor): void {
    this.patch({ monitor });
    this.player?.send({ type: 'monitor', monitor });
  }

  /** Compares the master with the lane without a stage, at equal loudness; null: with the untouched mix again. */
  compareStage(id: string | null): void {
    if (id === this.state.against) return;
    this.comparison.end();
    this.patch({ against: id });
    this.sendAgainst();
    this.measureComparison();
    this.matchLevels();
  }

  /** Compares with the lane without a stage and goes there; null: back to the master. */
  hearWithout(id: string | null): void {
    this.compareStage(id);
    this.listen(id ? 'mix' : 'master');
  }

  private laneWithout(stage: string): Lane {
    const { lane } = this.state.version;
    return { ...lane, stages: lane.stages.filter(({ id }) => id !== stage) };
  }

  /** Drives lanes to a loudness in LUFS by passes of their own, until it is closed. Fails for lanes while nothing is decoded. */
  measureAt(targetLufs: number): LoudnessRun {
    const { audio, workspace } = this.state;
    if (!audio) throw new Error('The mix is still on its way. Try again in a moment.');
    const run = new LoudnessRun(audio, workspace.mix?.report?.loudest ?? null, targetLufs);
    this.responses?.giveTo((name, response) => run.addResponse(name, response));
    return run;
  }

  private sendAgainst(): void {
    const { against } = this.state;
    this.player?.send({ type: 'against', lane: against ? this.laneWithout(against) : null });
  }

  private measureComparison(): void {
    const { against, audio } = this.state;
    if (against && audio)
      this.comparison.measure(audio, this.laneWithout(against), (take) => this.responses?.giveTo(take));
  }

  /** Lets only what the open stage takes away be heard, `gainDb` being what it does to what it leaves alone; null: no more. */
  hearRemoved(gainDb: number | null): void {
    this.patch({ hearsRemoved: gainDb !== null });
    this.player?.send({ type: 'removed', gainDb });
  }

  /** Lets only the region of the open band through, or everything again. */
  listenToRegion(on: boolean): void {
    this.patch({ soloRegion: on });
    this.sendRegion();
  }

  /** Makes the open equalizer ready for a sweep, or leaves it. */
  armSweep(on: boolean): void {
    const { version, openStage } = this.state;
    const stage = version.lane.stages.find(({ id }) => id === openStage);
    this.patch({ sweeping: on && stage?.kind === 'equalizer' });
  }

  /** Bands that let only the region of the open band pass; none where there is no such region. */
  private openRegion(): EqualizerBand[] {
    const { version, openStage, openBand } = this.state;
    const { stages, crossovers } = version.lane;
    const stage = stages.find(({ id }) => id === openStage);
    switch (stage?.kind) {
      case 'equalizer':
        return stage.settings.bands[openBand] ? regionBands(stage.settings.bands[openBand]) : [];
      case 'deEsser':
        return regionBands(deEsserBand(stage.settings, -stage.settings.rangeDb));
      case 'bandDynamics':
      case 'stereo':
        return bandRegion(crossovers, Math.min(openBand, crossovers.frequenciesHz.length));
      case 'saturation':
        return stage.settings.split === 'bands'
          ? bandRegion(crossovers, Math.min(openBand, crossovers.frequenciesHz.length))
          : [];
      case 'trim':
      case 'compressor':
      case 'room':
      case 'clipper':
      case 'limiter':
      case undefined:
        return [];
    }
  }

  private sendRegion(): void {
    const { soloRegion } = this.state;
    const bands = soloRegion ? this.openRegion() : [];
    if (soloRegion && bands.length === 0) this.patch({ soloRegion: false });
    const text = JSON.stringify(bands);
    if (text === this.regionSent) return;
    this.regionSent = text;
    this.player?.send({ type: 'region', bands });
  }

  // The lane

  openStage(id: string): void {
    if (this.state.hearsRemoved) this.hearRemoved(null);
    this.patch({ openStage: id, openBand: 0, soloRegion: false, sweeping: false });
    this.tapOpenStage();
  }

  openBand(index: number): void {
    this.patch({ openBand: index });
    this.sendRegion();
  }

  private tapOpenStage(): void {
    const { version, openStage } = this.state;
    const stage = Math.max(
      0,
      version.lane.stages.findIndex(({ id }) => id === openStage),
    );
    this.player?.send({ type: 'tap', stage });
    this.sendRegion();
  }

  /** Lets a changed lane be heard that is not kept; null goes back to the lane as it is. */
  preview(change: ((stages: Stage[]) => Stage[]) | null): void {
    const { lane } = this.state.version;
    this.player?.send({ type: 'lane', lane: change ? { ...lane, stages: change(lane.stages) } : lane });
  }

  /** Changes the lane: heard at once, saved in a moment, and measured by a new full pass. */
  edit(label: string, change: (stages: Stage[]) => Stage[]): void {
    this.editLane(label, (lane) => ({ ...lane, stages: change(lane.stages) }));
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

  /** Changes the lane as a whole, its crossovers included. */
  editLane(label: string, change: (lane: Lane) => Lane): void {
    const { version } = this.state;
    const lane = change(version.lane);
    if (lane === version.lane) return;
    this.label = label;
    this.amends = false;
    this.keep(lane);
  }

  private keep(lane: Lane): void {
    const { version } = this.state;
    this.dirty = true;
    this.take({ ...version, lane });
    if (!lane.stages.some(({ id }) => id === this.state.openStage)) this.keepOpenStage({ ...version, lane });
    this.patch({ saving: 'saving' });
    clearTimeout(this.saveTimer);
    this.saveTimer = setTimeout(() => void this.flush(), SAVE_DELAY_MS);
  }

  /** Gives rooms whose impulse response cannot be had one that is always there, and says so. */
  private replaceRooms({ message }: Error): void {
    this.report(message);
    this.edit('Replace a room', (stages) =>
      stages.map((stage) =>
        stage.kind === 'room' && stage.settings.file && !this.responses?.get(stage.settings.file)
          ? { ...stage, settings: { ...stage.settings, response: 'studio', file: null } }
          : stage,
      ),
    );
  }

  /** Sets the makeup of stages that hold their loudness: as loud out as in, by the last full pass. */
  private matchMakeups({ joints }: PassResult): void {
    const { version, passShare } = this.state;
    // When a newer change is about to be measured, that measurement counts.
    const held = passShare === null ? withHeldLoudness(version.lane, joints) : null;
    if (!held) return;
    if (!this.dirty) this.amends = true;
    this.keep(held);
  }

  addStage(kind: StageKind, at: number): void {
    const stage = newStage(kind, crypto.randomUUID());
    this.edit(`Add ${kind}`, (stages) => [...stages.slice(0, at), stage, ...stages.slice(at)]);
    this.openStage(stage.id);
  }

  /** Puts two limiters in: one for character, then one as a safety. */
  addLimiterPair(at: number): void {
    const pair = LIMITER_PAIR.map((settings): Stage => ({
      id: crypto.randomUUID(),
      kind: 'limiter',
      on: true,
      settings,
    }));
    if (this.state.version.lane.stages.length + pair.length > MAX_STAGES) return;
    this.edit('Add two limiters', (stages) => [...stages.slice(0, at), ...pair, ...stages.slice(at)]);
    this.openStage(pair[0].id);
  }

  /** Puts a copy of a stage right behind it. */
  duplicateStage(id: string): void {
    const { stages } = this.state.version.lane;
    const index = stages.findIndex((stage) => stage.id === id);
    if (index < 0 || stages.length >= MAX_STAGES) return;
    const copy = { ...structuredClone(stages[index]), id: crypto.randomUUID() };
    this.edit(`Duplicate ${copy.kind}`, (all) => [...all.slice(0, index + 1), copy, ...all.slice(index + 1)]);
    this.setPins([
      ...this.pins,
      ...this.pins.filter((pin) => pin.stage === id).map((pin) => ({ ...pin, stage: copy.id })),
    ]);
    this.openStage(copy.id);
  }

  /**
   * Copies a stage into the lane of another track, into the version that was last open there: ahead of a limiter at its
   * end, else behind everything. Gives the name of that version. Throws with a sentence.
   */
  async copyStageTo(trackId: string, id: string): Promise<string> {
    const stage = this.state.version.lane.stages.find((each) => each.id === id);
    const { versions } = await api<Workspace>(`/api/tracks/${trackId}`);
    const version = versions.find((each) => each.id === readView(trackId).version) ?? versions[0];
    if (!stage || !version) throw new Error('The stage could not be copied: it is no longer there.');
    const { stages } = version.lane;
    if (stages.length >= MAX_STAGES) throw new Error(`The lane of that track has ${MAX_STAGES} stages already.`);
    const at = stages.at(-1)?.kind === 'limiter' && stage.kind !== 'limiter' ? stages.length - 1 : stages.length;
    const copy = { ...stage, id: crypto.randomUUID() };
    const { track } = this.state.workspace;
    await api<VersionState>(`/api/versions/${version.id}/lane`, {
      method: 'PUT',
      body: {
        lane: { ...version.lane, stages: [...stages.slice(0, at), copy, ...stages.slice(at)] },
        label: `Copy of ${stage.kind} from “${track.title}”`.slice(0, 80),
        after: version.step,
      },
    });
    return version.name;
  }

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

  /** Takes a band's pins away with it; those of the bands behind it move up. */
  dropBandPins(stage: string, band: number): void {
    const moved = this.pins.flatMap((pin) => {
      const [, number, rest] = /^bands\.(\d+)\.(.+)$/.exec(pin.control) ?? [];
      if (pin.stage !== stage || number === undefined || Number(number) < band) return [pin];
      return Number(number) === band ? [] : [{ ...pin, control: `bands.${Number(number) - 1}.${rest}` }];
    });
    if (moved.length !== this.pins.length || moved.some((pin, i) => pin !== this.pins[i])) this.setPins(moved);
  }

  removeStage(id: string): void {
    const { stages } = this.state.version.lane;
    const index = stages.findIndex((stage) => stage.id === id);
    const next = stages[index + 1] ?? stages[index - 1];
    this.edit(`Remove ${stages[index].kind}`, (all) => all.filter((stage) => stage.id !== id));
    this.patch({ openStage: next?.id ?? null, openBand: 0 });
    this.tapOpenStage();
  }

  moveStage(id: string, to: number): void {
    this.edit('Move stage', (stages) => {
      const rest = stages.filter((stage) => stage.id !== id);
      const moved = stages.find((stage) => stage.id === id);
      return moved ? [...rest.slice(0, to), moved, ...rest.slice(to)] : stages;
    });
    this.tapOpenStage();
  }

  toggleStage(id: string): void {
    this.edit('Switch stage', (stages) =>
      stages.map((stage) => (stage.id === id ? { ...stage, on: !stage.on } : stage)),
    );
  }

  /** New settings for one stage. */
  setStage<Kind extends StageKind>(
    stage: Extract<Stage, { kind: Kind }>,
    label: string,
    settings: Partial<Extract<Stage, { kind: Kind }>['settings']>,
  ): void {
    this.edit(label, (stages) =>
      stages.map((other) =>
        other.id === stage.id ? ({ ...other, settings: { ...other.settings, ...settings } } as Stage) : other,
      ),
    );
  }

  /** A new value for a numeric setting of a stage. */
  setNumber(id: string, label: string, setting: string, value: number): void {
    this.edit(label, (stages) =>
      stages.map((stage) =>
        stage.id === id ? ({ ...stage, settings: { ...stage.settings, [setting]: value } } as Stage) : stage,
      ),
    );
  }

  /** Shows and plays a version's lane, and has it measured. */
  private take(version: VersionState): void {
    this.patch({ version });
    const { lane } = version;
    if (this.responses && !this.responses.has(lane)) {
      // What it needs is fetched first; what was taken meanwhile comes in its place.
      this.responses.need(lane).then(
        () => this.take(this.state.version),
        (error: Error) => this.replaceRooms(error),
      );
      return;
    }
    this.player?.send({ type: 'lane', lane });
    if (this.state.against) {
      if (lane.stages.some(({ id, on }) => id === this.state.against && on)) this.sendAgainst();
      else this.compareStage(null);
    }
    this.sendRegion();
    clearTimeout(this.passTimer);
    this.passTimer = setTimeout(() => {
      this.patch({ passShare: 0 });
      this.passClient?.run(lane);
      this.measureComparison();
    }, PASS_DELAY_MS);
  }

  /** Saves what is not saved yet; saves follow each other. */
  flush(): Promise<void> {
    clearTimeout(this.saveTimer);
    this.save = this.save.then(async () => {
      if (!this.dirty) return;
      this.dirty = false;
      const { amends } = this;
      const { id, lane, step } = this.state.version;
      try {
        const saved = await api<VersionState>(`/api/versions/${id}/lane`, {
          method: 'PUT',
          body: { lane, label: this.label || 'Makeup', after: step, amends },
          keepalive: true,
        });
        const { version } = this.state;
        // What was changed since keeps its lane and takes the new step.
        this.patch({
          version: { ...saved, lane: version.lane, pins: version.pins },
          saving: this.dirty ? 'saving' : 'saved',
          // A problem that had nothing to do with saving stays until it was read.
          ...(this.saveFailed ? { problem: null } : {}),
        });
        this.saveFailed = false;
      } catch (error) {
        this.dirty = true;
        this.saveFailed = true;
        this.patch({ saving: 'failed', problem: (error as Error).message });
      }
    });
    return this.save;
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
      this.patch({ problem: (error as Error).message });
    }
  }

  private keepOpenStage({ lane: { stages } }: VersionState): void {
    if (!stages.some(({ id }) => id === this.state.openStage))
      this.patch({ openStage: stages[0]?.id ?? null, openBand: 0 });
    this.tapOpenStage();
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
