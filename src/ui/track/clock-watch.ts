/** Interval of looking in ms, and looks without progress after which the clock counts as standing still. */
const LOOK_MS = 1000;
const PATIENCE = 3;

/** Watches the audio's clock while something should be heard: without an output device, or when it stops, it stands still. */
export class ClockWatch {
  private timer: ReturnType<typeof setInterval> | undefined;
  private last: number | null = null;
  private still = 0;

  /** `time` in seconds, null while there is no clock; `onChange` is told when it stops, and when it goes on. */
  constructor(
    private readonly time: () => number | null,
    private readonly onChange: (stalled: boolean) => void,
  ) {}

  start(): void {
    this.stop();
    this.timer = setInterval(() => this.look(), LOOK_MS);
  }

  stop(): void {
    clearInterval(this.timer);
    this.last = null;
    this.tell(0);
  }

  private look(): void {
    const now = this.time();
    if (now === null) return;
    this.tell(now === this.last ? this.still + 1 : 0);
    this.last = now;
  }

  private tell(still: number): void {
    const was = this.still >= PATIENCE;
    this.still = still;
    if (still >= PATIENCE !== was) this.onChange(still >= PATIENCE);
  }
}
