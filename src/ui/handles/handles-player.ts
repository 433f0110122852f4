import { sentenceOf } from '../../core/sentence-of';
import type { HandlesPage } from '../../contracts/proposal';
import { withPositions, type HandlePositions } from '../../core/house/proposal';
import type { Lane } from '../../core/lane/schema';
import { Player } from '../../engine/live/player';
import type { LiveReadings } from '../../engine/live/protocol';
import { MixDecoder } from '../../engine/sources/mix-decoder';
import { LIVE, MIX } from '../../engine/sources/source-mixer';
import { downloadAudio } from '../audio-download';
import { Impulses } from '../impulses';

/** What is heard: the mix, the version as it is, or with the handles where they are now. */
export type HandlesSource = 'mix' | 'version' | 'proposal';

export interface HandlesState {
  /** Share of the mix that has arrived; 1 when it can be heard. */
  arrived: number;
  playing: boolean;
  seconds: number;
  source: HandlesSource;
  problem: string | null;
}

/** Addresses of the mix and of the impulse responses that a lane names. */
export interface HandlesPaths {
  audio: string;
  impulses: string;
}

/** Hears the handles of a version live: the same worklet as in the workspace, without its figures. */
export class HandlesPlayer {
  state: HandlesState = { arrived: 0, playing: false, seconds: 0, source: 'proposal', problem: null };
  private player: Player | null = null;
  private closed = false;
  private moved: Lane;

  constructor(
    private readonly page: HandlesPage,
    private readonly paths: HandlesPaths,
    private readonly onState: (state: HandlesState) => void,
  ) {
    this.moved = page.lane;
  }

  private set(changes: Partial<HandlesState>): void {
    this.state = { ...this.state, ...changes };
    this.onState(this.state);
  }

  /** Fetches and decodes the mix, then can play. */
  async open(): Promise<void> {
    const { frames, sampleRate } = this.page.mix;
    try {
      const decoder = new MixDecoder(frames, sampleRate);
      await downloadAudio(this.paths.audio, {
        take: (bytes) => decoder.push(bytes),
        // The last of it is shown once it can be heard.
        onShare: (share) => this.set({ arrived: 0.99 * share }),
      });
      const audio = await decoder.finish();
      const impulses = new Impulses(sampleRate, () => {}, this.paths.impulses);
      await impulses.need(this.page.lane);
      if (this.closed) return;
      const player = await Player.open(
        { audio, lane: this.lane, taps: null, impulses: impulses.all() },
        (readings) => this.heard(readings),
        () => this.set({ problem: 'The audio stopped working. Reload the page.', playing: false }),
      );
      if (this.closed) return void player.close();
      this.player = player;
      // Handles may have been moved meanwhile.
      this.sendLane();
      this.set({ arrived: 1 });
    } catch (error) {
      this.set({ problem: sentenceOf(error) });
    }
  }

  private heard({ frame, playing, played }: LiveReadings): void {
    this.set({ seconds: frame / this.page.mix.sampleRate, playing });
    // The mix as loud as the lane, as far as both were played; louder would seem better.
    const gainDb = played.laneLufs - played.mixLufs;
    if (Number.isFinite(gainDb))
      this.player?.send({ type: 'gains', gainsDb: { [MIX]: Math.min(0, gainDb), [LIVE]: Math.min(0, -gainDb) } });
  }

  private get lane(): Lane {
    return this.state.source === 'version' ? this.page.lane : this.moved;
  }

  private sendLane(): void {
    this.player?.send({ type: 'lane', lane: this.lane });
  }

  /** Puts the handles elsewhere; heard at once. */
  move(positions: HandlePositions): void {
    this.moved = withPositions(this.page.lane, positions) ?? this.page.lane;
    if (this.state.source !== 'proposal') return this.hear('proposal');
    this.sendLane();
  }

  hear(source: HandlesSource): void {
    this.set({ source });
    if (source !== 'mix') this.sendLane();
    this.player?.send({ type: 'hear', source: source === 'mix' ? MIX : LIVE, less: null });
  }

  toggle(): void {
    if (this.state.playing) this.player?.send({ type: 'pause' });
    else void this.player?.play();
    this.set({ playing: !this.state.playing });
  }

  seek(seconds: number): void {
    this.player?.send({ type: 'seek', frame: Math.round(seconds * this.page.mix.sampleRate) });
    this.set({ seconds });
  }

  close(): void {
    this.closed = true;
    void this.player?.close();
    this.player = null;
  }
}
