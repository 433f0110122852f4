import type { Audio } from '../pass/result';
import type { LiveOptions, LiveReadings, LiveRequest } from './protocol';

/** Address of the bundled worklet; the bundler turns this into a file of its own. */
const WORKLET = new URL('./live.worklet.ts', import.meta.url);

/** Adds the lane as a node to an audio context, real or offline. */
export async function createLiveNode(context: BaseAudioContext, options: LiveOptions): Promise<AudioWorkletNode> {
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
  ) {}

  static async open(options: LiveOptions, onReadings: (readings: LiveReadings) => void): Promise<Player> {
    const context = new AudioContext({ sampleRate: options.audio.sampleRate, latencyHint: 'interactive' });
    const node = await createLiveNode(context, options);
    node.port.onmessage = ({ data }: MessageEvent<LiveReadings>) => onReadings(data);
    node.connect(context.destination);
    return new Player(context, node);
  }

  send(request: LiveRequest): void {
    this.node.port.postMessage(request);
  }

  /** Browsers start sound only from a press of the user's. */
  async play(): Promise<void> {
    await this.context.resume();
    this.send({ type: 'play' });
  }

  async close(): Promise<void> {
    await this.context.close();
  }
}

/**
 * Decodes a working file at its own rate into shared memory, which the worklet and the pass worker both read. Throws an
 * Error with a sentence when the browser cannot decode it.
 */
export async function decodeMix(file: ArrayBuffer, sampleRate: number): Promise<Audio> {
  const decoder = new OfflineAudioContext(2, 1, sampleRate);
  const decoded = await decoder.decodeAudioData(file).catch(() => {
    throw new Error(
      'The browser could not decode the mix. Reload the page; if it happens again, put the mix in once more.',
    );
  });
  const side = (channel: number) => {
    const samples = new Float32Array(new SharedArrayBuffer(decoded.length * 4));
    samples.set(decoded.getChannelData(channel));
    return samples;
  };
  return { left: side(0), right: side(1), sampleRate };
}
