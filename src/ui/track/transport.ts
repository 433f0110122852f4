import { createStore } from 'zustand/vanilla';
import type { Loop } from '../../engine/live/protocol';
import { ClockWatch } from './clock-watch';
import type { LiveLink } from './live-link';

export interface TransportState {
  playing: boolean;
  loop: Loop | null;
  /** Whether the audio's clock stands still although something should be heard. */
  stalled: boolean;
}

/** Frames from where one wants to be at which one has arrived, and readings after which a seek is given up. */
const ARRIVED_FRAMES = 20_000;
const SEEK_READINGS = 15;

/** Where in the track is heard: play, pause, seek and loop. */
export class Transport {
  readonly store;
  private readonly watch: ClockWatch;
  /** Where a seek that was not confirmed yet goes. */
  private sought: { frame: number; readings: number } | null = null;

  constructor(
    private readonly link: LiveLink,
    loop: Loop | null,
  ) {
    this.store = createStore<TransportState>(() => ({ playing: false, loop, stalled: false }));
    this.watch = new ClockWatch(
      () => link.time,
      (stalled) => this.store.setState({ stalled }),
    );
    this.store.subscribe(({ playing }, before) => {
      if (playing === before.playing) return;
      if (playing) this.watch.start();
      else this.watch.stop();
    });
  }

  /** Sends what stands to a worklet that has just begun, and goes to a frame. */
  begin(frame: number): void {
    this.link.send({ type: 'loop', loop: this.store.getState().loop });
    if (frame > 0) this.seek(frame);
  }

  /** The worklet says whether it plays, and which frame is heard. */
  report(playing: boolean, frame: number): void {
    const { sought } = this;
    if (sought && (Math.abs(frame - sought.frame) < ARRIVED_FRAMES || ++sought.readings > SEEK_READINGS))
      this.sought = null;
    if (playing !== this.store.getState().playing) this.store.setState({ playing });
  }

  togglePlay(): void {
    const { playing } = this.store.getState();
    if (playing) this.link.send({ type: 'pause' });
    else this.link.play();
    this.store.setState({ playing: !playing });
  }

  /** Asks for an output device again after the clock stood still. */
  restart(): void {
    this.link.restart();
  }

  close(): void {
    this.watch.stop();
  }

  /** Where one is, `heard` being the frame that was heard last: quick steps start from where the one before them goes. */
  here(heard: number): number {
    return this.sought?.frame ?? heard;
  }

  seek(frame: number): void {
    this.sought = { frame, readings: 0 };
    this.link.send({ type: 'seek', frame });
  }

  /** Loops a passage and goes to its start; null: no longer. */
  setLoop(loop: Loop | null): void {
    this.keepLoop(loop);
    if (loop) this.seek(loop.start);
  }

  /** Loops a passage from wherever is heard. */
  keepLoop(loop: Loop | null): void {
    this.store.setState({ loop });
    this.link.send({ type: 'loop', loop });
  }
}
