/** How often the elements are compared, in ms. */
const WATCH_MS = 50;
/** Elements this close count as together, in seconds: below what one hears as a jump. */
const TOGETHER = 0.015;
/** Beyond this a silent element is sent to the place instead of hurrying there. */
const JUMP = 0.4;
/** How a silent element makes up for a second of difference, and the most it hurries or waits: nobody hears it. */
const HURRY = 5;
const MOST_HURRY = { ahead: -0.5, late: 1 };
/** Steps of the crossfade when another element becomes audible: about 20 ms at 60 frames a second. */
const FADE_STEPS = [0.66, 0.33, 0];

/** What the elements do. */
export interface AudioState {
  /** Wanted, also while it waits for data or for the line. */
  playing: boolean;
  /** Waiting for data. */
  waiting: boolean;
  seconds: number;
  /** Which of them is heard. */
  heard: string;
  /** The element that is to be heard as soon as it has caught up; null when none is on its way. */
  coming: string | null;
  /** The stream broke off. */
  broken: boolean;
}

/**
 * Several recordings of the same length played as one: one is heard, the others run along silently once they were asked for, so that
 * switching is immediate and at the same place. Plain audio elements keep playing while the phone is locked.
 */
export class SyncedAudio {
  state: AudioState;
  private readonly elements = new Map<string, HTMLAudioElement>();
  private timer: number | undefined;
  private lead = 0.05;

  /**
   * @param urlOf Address of the recording with a name.
   * @param onState Told whenever something changes.
   */
  constructor(
    private readonly urlOf: (name: string) => string,
    heard: string,
    seconds: number,
    private readonly onState: (state: AudioState) => void,
  ) {
    this.state = { playing: false, waiting: false, seconds, heard, coming: null, broken: false };
  }

  private set(changes: Partial<AudioState>): void {
    this.state = { ...this.state, ...changes };
    this.onState(this.state);
  }

  private element(name: string): HTMLAudioElement {
    const there = this.elements.get(name);
    if (there) return there;
    const audio = new Audio();
    audio.preload = 'auto';
    audio.muted = name !== this.state.heard;
    audio.src = this.urlOf(name);
    // Some browsers keep a time that is set before the length is known, others do not.
    audio.currentTime = this.state.seconds;
    audio.addEventListener('loadedmetadata', () => {
      if (Math.abs(audio.currentTime - this.state.seconds) > JUMP) audio.currentTime = this.state.seconds;
    });
    const heard = (changes: Partial<AudioState>) => () => {
      if (this.state.heard === name && this.elements.get(name) === audio) this.set(changes);
    };
    audio.addEventListener('playing', heard({ playing: true, waiting: false, broken: false }));
    audio.addEventListener('waiting', heard({ waiting: true }));
    audio.addEventListener('pause', () => {
      // Also when a phone call or another program stops it.
      if (this.state.heard === name && this.state.playing) this.pause();
    });
    audio.addEventListener('error', heard({ waiting: false, broken: true }));
    this.elements.set(name, audio);
    return audio;
  }

  /** Loads what is heard, and others that will be wanted soon, so that they start at once. */
  prepare(others: readonly string[] = []): void {
    this.element(this.state.heard);
    for (const name of others) this.element(name);
  }

  /** Plays from where it is. To be called by a press: browsers let nothing else start sound. */
  play(): void {
    this.set({ playing: true, waiting: true, broken: false });
    for (const [, audio] of new Map([[this.state.heard, this.element(this.state.heard)], ...this.elements]))
      void audio.play().catch(() => {});
    this.timer ??= window.setInterval(() => this.watch(), WATCH_MS);
  }

  pause(): void {
    for (const audio of this.elements.values()) audio.pause();
    window.clearInterval(this.timer);
    this.timer = undefined;
    this.set({ playing: false, waiting: false, coming: null });
  }

  /** Goes to a place in seconds. */
  seek(seconds: number): void {
    for (const audio of this.elements.values()) {
      audio.currentTime = seconds;
      audio.playbackRate = 1;
    }
    this.set({ seconds });
  }

  /** Makes another recording audible; while playing, as soon as it runs along with the one before. */
  hear(name: string): void {
    if (name === this.state.heard) return this.set({ coming: null });
    const audio = this.element(name);
    if (!this.state.playing) {
      const before = this.elements.get(this.state.heard);
      if (before) before.muted = true;
      audio.muted = false;
      audio.currentTime = this.state.seconds;
      return this.set({ heard: name, coming: null });
    }
    this.set({ coming: name });
    if (audio.paused) {
      audio.currentTime = this.state.seconds + this.lead;
      void audio.play().catch(() => {});
    }
    this.watch();
  }

  /** Loads everything again, from where it was: after the line was lost, or for other addresses. */
  reload(): void {
    const { playing } = this.state;
    this.close();
    if (playing) this.play();
    else this.prepare();
  }

  /** Ends it; nothing is heard any more. */
  close(): void {
    window.clearInterval(this.timer);
    this.timer = undefined;
    for (const audio of this.elements.values()) {
      audio.pause();
      audio.removeAttribute('src');
      audio.load();
    }
    this.elements.clear();
  }

  private watch(): void {
    const { heard, coming } = this.state;
    const audio = this.elements.get(heard);
    if (!audio) return;
    if (audio.ended) return this.pause();
    this.set({ seconds: audio.currentTime });
    for (const [name, other] of this.elements) {
      if (name === heard || other.paused || other.readyState < 3 || other.seeking) continue;
      const late = audio.currentTime - other.currentTime;
      if (Math.abs(late) <= TOGETHER) {
        other.playbackRate = 1;
        if (name === coming) this.swap(audio, other, name);
      } else if (Math.abs(late) > JUMP) {
        // The next jump aims ahead by what this one was late.
        this.lead = Math.min(1, Math.max(0, this.lead + late / 2));
        other.currentTime = audio.currentTime + this.lead;
      } else other.playbackRate = 1 + Math.max(MOST_HURRY.ahead, Math.min(MOST_HURRY.late, HURRY * late));
    }
  }

  private swap(before: HTMLAudioElement, after: HTMLAudioElement, name: string): void {
    this.set({ heard: name, coming: null });
    after.volume = 0;
    after.muted = false;
    const fade = (step: number) => {
      // Whoever switched back meanwhile has begun a fade of their own.
      if (this.state.heard !== name) return;
      before.volume = FADE_STEPS[step];
      after.volume = 1 - FADE_STEPS[step];
      if (step + 1 < FADE_STEPS.length) return requestAnimationFrame(() => fade(step + 1));
      before.muted = true;
      before.volume = 1;
    };
    fade(0);
  }
}
