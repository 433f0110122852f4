import { amplitude } from '../../core/signal/decibels';
import type { LiveOptions, LiveReadings, LiveRequest, WorkletReply, WorkletRequest } from './protocol';

/** Address of the bundled worklet; the bundler turns this into a file of its own. */
const WORKLET = new URL('./live.worklet.ts', import.meta.url);

/** Longest wait in ms for the worklet to end. */
const END_MS = 1000;
/** Time constant of a change of the volume. */
const VOLUME_SECONDS = 0.015;

/** Adds the lane as a node to an audio context, real or offline. */
async function createLiveNode(context: BaseAudioContext, options: LiveOptions): Promise<AudioWorkletNode> {
  await context.audioWorklet.addModule(WORKLET);
  return new AudioWorkletNode(context, 'copper-lane', {
    numberOfInputs: 0,
    numberOfOutputs: 1,
    outputChannelCount: [2],
    processorOptions: options,
  });
}

/** A page's side of live listening: an audio context at the mix's own rate with the lane in its worklet. */
export class Player {
  private constructor(
    private readonly context: AudioContext,
    private readonly node: AudioWorkletNode,
    /** What comes after everything that is measured. */
    private readonly volume: GainNode,
  ) {}

  /** `onFailure` is told once when the worklet has failed and nothing can be heard any longer. */
  static async open(
    options: LiveOptions,
    onReadings: (readings: LiveReadings) => void,
    onFailure: () => void,
  ): Promise<Player> {
    const context = new AudioContext({ sampleRate: options.audio.sampleRate, latencyHint: 'interactive' });
    const node = await createLiveNode(context, options);
    node.port.onmessage = ({ data }: MessageEvent<WorkletReply>) => data !== 'ended' && onReadings(data);
    node.onprocessorerror = onFailure;
    const volume = new GainNode(context);
    node.connect(volume).connect(context.destination);
    return new Player(context, node, volume);
  }

  send(request: LiveRequest): void {
    this.tell(request);
  }

  /** Browsers start sound only from a press of the user's. */
  async play(): Promise<void> {
    await this.context.resume();
    this.send({ type: 'play' });
  }

  /** Seconds of the audio's own clock, which stands still when there is no output device. */
  get time(): number {
    return this.context.currentTime;
  }

  /** Sets how loud one listens, in dB, after all meters. */
  setVolume(gainDb: number): void {
    this.volume.gain.setTargetAtTime(amplitude(gainDb), this.context.currentTime, VOLUME_SECONDS);
  }

  /** Asks for an output device again. */
  async restart(): Promise<void> {
    await this.context.suspend();
    await this.context.resume();
  }

  private tell(request: WorkletRequest): void {
    this.node.port.postMessage(request);
  }

  /**
   * Ends the sound and lets go of everything, in the worklet too: what a closed context still refers to stays in memory,
   * and so does the context itself unless its processor has run once more and said that it is done.
   */
  async close(): Promise<void> {
    const { port } = this.node;
    this.node.onprocessorerror = null;
    const ended = new Promise<void>((resolve) => {
      port.onmessage = ({ data }: MessageEvent<WorkletReply>) => data === 'ended' && resolve();
      // Where there is no output device it never runs.
      setTimeout(resolve, END_MS);
    });
    this.tell({ type: 'end' });
    void this.context.resume();
    await ended;
    port.onmessage = null;
    this.node.disconnect();
    await this.context.close();
    port.close();
  }
}
