import { QUANTUM } from '../../core/kernels/layout';
import type { TrackPosition } from '../../core/lane/processor';
import type { Places } from '../sources/places';
import { FADE_SECONDS, Ramp } from '../sources/ramp';
import type { Loop } from './protocol';

/** Places are remembered for the longest lane: a dozen linear-phase stages at 192 kHz. */
const REMEMBERED_FRAMES = 524288;

/** Where in the track is played: play, pause, seek, loop, and the places that were fed to the lane not long ago. */
export class Transport implements TrackPosition {
  playing: boolean;
  loop: Loop | null = null;
  /** Next frame of the track that is fed. */
  private position = 0;
  /** Frames since the feed last jumped back in a loop. */
  private sinceJump = Infinity;
  private pendingSeek: number | null = null;
  /** Gain of everything that is heard: playing and seeking fade. */
  private readonly fade: Ramp;
  private readonly frames = new Int32Array(REMEMBERED_FRAMES).fill(-1);
  private readonly gains = new Float32Array(REMEMBERED_FRAMES);
  private fed = 0;

  constructor(
    private readonly length: number,
    sampleRate: number,
    playing: boolean,
  ) {
    this.playing = playing;
    this.fade = new Ramp(playing ? 1 : 0, Math.round(FADE_SECONDS * sampleRate));
  }

  play(): void {
    this.playing = true;
    // A seek that is under way fades in when it has arrived.
    if (this.pendingSeek === null) this.fade.moveTo(1);
  }

  pause(): void {
    this.playing = false;
    this.fade.moveTo(0);
  }

  /** Fades out; {@link arrive} then tells where to go. */
  seek(frame: number): void {
    this.pendingSeek = Math.max(0, Math.min(this.length, Math.round(frame)));
    this.fade.moveTo(0);
  }

  /** Whether nothing is heard and nothing fades. */
  get silent(): boolean {
    return this.fade.value === 0 && this.fade.resting;
  }

  /** The frame to jump to, once: when a seek has faded out. Null for none. */
  arrive(): number | null {
    const frame = this.silent ? this.pendingSeek : null;
    if (frame === null) return null;
    this.pendingSeek = null;
    if (this.playing) this.fade.moveTo(1);
    return frame;
  }

  /** Feeds from a frame on. */
  jump(frame: number): void {
    this.position = frame;
    this.sinceJump = Infinity;
  }

  /** The frame that is fed next. */
  get next(): number {
    return this.position;
  }

  /** Fills the places of the next quantum; a loop dips to silence for a quantum before and after its seam. */
  feed(places: Places): void {
    const { loop } = this;
    for (let i = 0; i < QUANTUM; i++) {
      if (loop && this.position >= loop.end && this.position < loop.end + QUANTUM) {
        this.position = loop.start;
        this.sinceJump = 0;
      }
      const seam = loop ? Math.min(1, Math.abs(loop.end - this.position) / QUANTUM, this.sinceJump / QUANTUM) : 1;
      places.frames[i] = this.position < this.length ? this.position : -1;
      places.gains[i] = seam;
      this.position++;
      this.sinceJump++;
    }
    this.frames.set(places.frames, this.fed);
    this.gains.set(places.gains, this.fed);
    this.fed = (this.fed + QUANTUM) % REMEMBERED_FRAMES;
  }

  /** Fills the places that were fed some frames before the newest quantum. */
  remembered(framesBefore: number, places: Places): void {
    const start = this.fed - QUANTUM - framesBefore + 2 * REMEMBERED_FRAMES;
    for (let i = 0; i < QUANTUM; i++) {
      const at = (start + i) % REMEMBERED_FRAMES;
      places.frames[i] = this.frames[at];
      places.gains[i] = this.gains[at];
    }
  }

  /** Frame of the track that was fed some frames before the newest quantum began. */
  before(framesBefore: number): number {
    return this.frames[(this.fed - QUANTUM - framesBefore + 2 * REMEMBERED_FRAMES) % REMEMBERED_FRAMES];
  }

  /** Frame of the track that is heard now through a lane of a latency. */
  heard(latency: number): number {
    const { loop, sinceJump, position } = this;
    const frame = loop && sinceJump < latency ? loop.end - (latency - sinceJump) : position - latency;
    return this.pendingSeek ?? Math.max(0, Math.min(this.length, frame));
  }

  /** Whether the end was heard through a lane of a latency. */
  atEnd(latency: number): boolean {
    return !this.loop && this.position - latency >= this.length;
  }

  /** Applies the fades of playing, pausing and seeking to a quantum. */
  process(left: Float32Array, right: Float32Array): void {
    for (let i = 0; i < QUANTUM; i++) {
      const gain = this.fade.next();
      left[i] *= gain;
      right[i] *= gain;
    }
  }
}
