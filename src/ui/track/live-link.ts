import type { Player } from '../../engine/live/player';
import type { LiveRequest } from '../../engine/live/protocol';

/** The way to the audio worklet. Until the mix is there, what is sent is dropped: {@link attach} sends what stands then. */
export class LiveLink {
  private player: Player | null = null;

  attach(player: Player): void {
    this.player = player;
  }

  send(request: LiveRequest): void {
    this.player?.send(request);
  }

  play(): void {
    void this.player?.play();
  }

  /** Seconds of the audio's clock; null while there is none. */
  get time(): number | null {
    return this.player?.time ?? null;
  }

  setVolume(gainDb: number): void {
    this.player?.setVolume(gainDb);
  }

  restart(): void {
    void this.player?.restart();
  }

  close(): void {
    void this.player?.close();
    this.player = null;
  }
}
