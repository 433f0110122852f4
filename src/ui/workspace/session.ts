import { createStore, type StoreApi } from 'zustand/vanilla';
import { newStage, type Lane, type Stage } from '../../core/lane/schema';
import type { StageKind } from '../../core/stages/registry';
import { levelMatch, type LevelMatch } from '../../engine/live/level-match';
import { decodeMix, Player } from '../../engine/live/player';
import { makeTaps, type LiveReadings, type Loop, type Monitor, type Side, type Taps } from '../../engine/live/protocol';
import { PassClient } from '../../engine/pass/client';
import type { Audio, PassResult } from '../../engine/pass/result';
import type { VersionState } from '../../exchange/version';
import type { Workspace } from '../../exchange/workspace';
import { api } from '../api';
import { LiveBoard } from './live-board';
import { readView, writeView } from './view-memory';

const SAVE_DELAY_MS = 250;
const PASS_DELAY_MS = 90;

export interface WorkspaceState {
  workspace: Workspace;
  version: VersionState;
  saving: 'saved' | 'saving' | 'failed';
  problem: string | null;
  /** Share of the mix that has arrived; 1 when it can be heard. */
  arrived: number;
  audio: Audio | null;
  openStage: string | null;
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
}

/** One open track: its lane, what is heard of it, and the full pass. Everything in it works without React. */
export class WorkspaceSession {
  readonly store: StoreApi<WorkspaceState>;
  readonly board = new LiveBoard();
  readonly taps: Taps = makeTaps();
  private player: Player | null = null;
  private passClient: PassClient | null = null;
  private saveTimer: ReturnType<typeof setTimeout> | undefined;
  private passTimer: ReturnType<typeof setTimeout> | undefined;
  private label = '';
  /** The save under way; the next one waits for it. */
  private save: Promise<void> = Promise.resolve();
  private dirty = false;
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
    }));
    this.store.subscribe(({ version: { id }, openStage, openBand, loop }) =>
      writeView(workspace.track.id, { version: id, openStage, openBand, loop }),
    );
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
      if (this.closed) return;
      this.passClient = new PassClient(audio, {
        onProgress: (share) => this.patch({ passShare: share }),
        onResult: (pass) => {
          this.patch({ pass, passShare: null, passProblem: null });
          this.matchLevels();
        },
        onFailure: (passProblem) => this.patch({ passProblem, passShare: null }),
      });
      const { lane } = this.state.version;
      this.passClient.run(lane);
      const player = await Player.open(audio, lane, this.taps, (readings) => this.heard(readings));
      if (this.closed) return void player.close();
      this.player = player;
      this.patch({ audio, arrived: 1, passShare: 0 });
      // The lane may have been changed while the player was being made.
      player.send({ type: 'lane', lane: this.state.version.lane });
      player.send({ type: 'loop', loop: this.state.loop });
      this.tapOpenStage();
    } catch (error) {
      this.patch({ problem: (error as Error).message });
    }
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
    clearTimeout(this.passTimer);
    void this.flush();
    this.passClient?.close();
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
    const { pass } = this.state;
    if (!pass) return;
    this.patch({ matchEstimated: false });
    this.sendMatch(levelMatch(pass.mix, pass.master));
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

  // The lane

  openStage(id: string): void {
    this.patch({ openStage: id, openBand: 0 });
    this.tapOpenStage();
  }

  openBand(index: number): void {
    this.patch({ openBand: index });
  }

  private tapOpenStage(): void {
    const { version, openStage } = this.state;
    const stage = Math.max(
      0,
      version.lane.stages.findIndex(({ id }) => id === openStage),
    );
    this.player?.send({ type: 'tap', stage });
  }

  /** Changes the lane: heard at once, saved in a moment, and measured by a new full pass. */
  edit(label: string, change: (stages: Stage[]) => Stage[]): void {
    const { version } = this.state;
    const lane: Lane = { ...version.lane, stages: change(version.lane.stages) };
    this.label = label;
    this.dirty = true;
    this.take({ ...version, lane });
    if (!lane.stages.some(({ id }) => id === this.state.openStage)) this.keepOpenStage({ ...version, lane });
    this.patch({ saving: 'saving' });
    clearTimeout(this.saveTimer);
    this.saveTimer = setTimeout(() => void this.flush(), SAVE_DELAY_MS);
  }

  addStage(kind: StageKind, at: number): void {
    const stage = newStage(kind, crypto.randomUUID());
    this.edit(`Add ${kind}`, (stages) => [...stages.slice(0, at), stage, ...stages.slice(at)]);
    this.openStage(stage.id);
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

  /** Shows and plays a version's lane, and has it measured. */
  private take(version: VersionState): void {
    this.patch({ version });
    const { lane } = version;
    this.player?.send({ type: 'lane', lane });
    clearTimeout(this.passTimer);
    this.passTimer = setTimeout(() => {
      this.patch({ passShare: 0 });
      this.passClient?.run(lane);
    }, PASS_DELAY_MS);
  }

  /** Saves what is not saved yet; saves follow each other. */
  flush(): Promise<void> {
    clearTimeout(this.saveTimer);
    this.save = this.save.then(async () => {
      if (!this.dirty) return;
      this.dirty = false;
      const { id, lane, step } = this.state.version;
      try {
        const saved = await api<VersionState>(`/api/versions/${id}/lane`, {
          method: 'PUT',
          body: { lane, label: this.label, after: step },
          keepalive: true,
        });
        const { version } = this.state;
        // What was changed since keeps its lane and takes the new step.
        this.patch({
          version: { ...saved, lane: version.lane },
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

  /** Takes what the server knows of the track, apart from the lane that is open. */
  async refresh(): Promise<VersionState[]> {
    const workspace = await api<Workspace>(`/api/tracks/${this.state.workspace.track.id}`);
    this.patch({ workspace });
    return workspace.versions;
  }
}
