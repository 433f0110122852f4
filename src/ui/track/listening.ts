import type { StoreApi } from 'zustand/vanilla';
import { bandRegion } from '../../core/stages/bands/crossovers';
import { deEsserBand } from '../../core/stages/de-esser/design';
import { regionBands } from '../../core/stages/equalizer/region';
import type { EqualizerBand } from '../../core/stages/equalizer/settings';
import { levelMatch, type LevelMatch } from '../../engine/sources/level-match';
import type { Player } from '../../engine/live/player';
import type { LiveReadings, LiveRequest, Loop, Monitor, Side } from '../../engine/live/protocol';
import type { LiveBoard } from './live-board';
import type { WorkspaceState } from './track-state';

/** What is heard of the open track, and where in it. Until the mix is there everything is remembered and nothing sounds. */
export class Listening {
  private player: Player | null = null;
  /** Bands of the region that is heard alone, as they were last sent. */
  private regionSent = '[]';

  constructor(
    private readonly store: StoreApi<WorkspaceState>,
    private readonly board: LiveBoard,
  ) {}

  private get state(): WorkspaceState {
    return this.store.getState();
  }

  /** Takes a player and brings it to where everything stands, at a place in seconds. */
  begin(player: Player, seconds: number): void {
    const { version, loop, audio } = this.state;
    this.player = player;
    // The lane may have been changed while the player was being made.
    this.send({ type: 'lane', lane: version.lane });
    this.send({ type: 'loop', loop });
    if (audio && seconds > 0) this.seek(seconds * audio.sampleRate);
    this.openStage();
  }

  end(): void {
    void this.player?.close();
  }

  send(request: LiveRequest): void {
    this.player?.send(request);
  }

  /** What the worklet says of itself. */
  heard(readings: LiveReadings): void {
    this.board.push(readings);
    if (readings.playing !== this.state.playing) this.store.setState({ playing: readings.playing });
    if (!this.state.matchEstimated || !readings.playing) return;
    const { joints } = readings;
    const peak = (index: number) => 20 * Math.log10(Math.max(1e-6, joints[index].truePeak));
    this.match(
      levelMatch(
        { integratedLufs: readings.mixLufs, truePeakDbtp: peak(0) },
        { integratedLufs: readings.masterLufs, truePeakDbtp: peak(joints.length - 1) },
      ),
    );
  }

  /** Gains of both sides by which neither is louder. */
  match(match: LevelMatch): void {
    this.send({ type: 'match', ...match });
    this.store.setState({ match });
  }

  togglePlay(): void {
    const { playing } = this.state;
    if (playing) this.send({ type: 'pause' });
    else void this.player?.play();
    this.store.setState({ playing: !playing });
  }

  seek(frame: number): void {
    this.send({ type: 'seek', frame });
  }

  /** Seconds forward or back from what is heard. */
  skip(seconds: number): void {
    const { audio } = this.state;
    if (audio && this.board.latest) this.seek(this.board.latest.frame + seconds * audio.sampleRate);
  }

  setLoop(loop: Loop | null): void {
    this.store.setState({ loop });
    this.send({ type: 'loop', loop });
    if (loop) this.seek(loop.start);
  }

  toLoudest(): void {
    const report = this.state.workspace.mix?.report;
    if (report) this.seek(report.loudest.start);
  }

  listen(side: Side): void {
    this.store.setState({ side });
    this.send({ type: 'listen', side });
  }

  setMonitor(monitor: Monitor): void {
    this.store.setState({ monitor });
    this.send({ type: 'monitor', monitor });
  }

  /** Lets only what the open stage takes away be heard, `gainDb` being what it does to what it leaves alone; null: no more. */
  hearRemoved(gainDb: number | null): void {
    this.store.setState({ hearsRemoved: gainDb !== null });
    this.send({ type: 'removed', gainDb });
  }

  /** Lets only the region of the open band through, or everything again. */
  hearRegion(on: boolean): void {
    this.store.setState({ soloRegion: on });
    this.followRegion();
  }

  /** Has the worklet watch the stage that is open. */
  openStage(): void {
    const { version, openStage } = this.state;
    const index = version.lane.stages.findIndex(({ id }) => id === openStage);
    this.send({ type: 'tap', stage: Math.max(0, index) });
    this.followRegion();
  }

  /** Keeps to the region of the open band when lane or band have changed; where there is none everything is heard. */
  followRegion(): void {
    const { soloRegion } = this.state;
    const bands = soloRegion ? openRegion(this.state) : [];
    if (soloRegion && bands.length === 0) this.store.setState({ soloRegion: false });
    const text = JSON.stringify(bands);
    if (text === this.regionSent) return;
    this.regionSent = text;
    this.send({ type: 'region', bands });
  }
}

/** Bands that let only the region of the open band pass; none where there is no such region. */
function openRegion({ version, openStage, openBand }: WorkspaceState): EqualizerBand[] {
  const { stages, crossovers } = version.lane;
  const stage = stages.find(({ id }) => id === openStage);
  const ofLane = () => bandRegion(crossovers, Math.min(openBand, crossovers.frequenciesHz.length));
  switch (stage?.kind) {
    case 'equalizer':
      return stage.settings.bands[openBand] ? regionBands(stage.settings.bands[openBand]) : [];
    case 'deEsser':
      return regionBands(deEsserBand(stage.settings, -stage.settings.rangeDb));
    case 'bandDynamics':
    case 'stereo':
      return ofLane();
    case 'saturation':
      return stage.settings.split === 'bands' ? ofLane() : [];
    case 'trim':
    case 'compressor':
    case 'room':
    case 'clipper':
    case 'limiter':
    case undefined:
      return [];
  }
}
