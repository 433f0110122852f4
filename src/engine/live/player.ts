import type { LiveOptions, LiveReadings, LiveRequest, WorkletRequest } from './protocol';

/** Address of the bundled worklet; the bundler turns this into a file of its own. */
const WORKLET = new URL('./live.worklet.ts', import.meta.url);

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
  ) {}

  static async open(options: LiveOptions, onReadings: (readings: LiveReadings) => void): Promise<Player> {
    const context = new AudioContext({ sampleRate: options.audio.sampleRate, latencyHint: 'interactive' });
    const node = await createLiveNode(context, options);
    node.port.onmessage = ({ data }: MessageEvent<LiveReadings>) => onReadings(data);
    node.connect(context.destination);
    return new Player(context, node);
  }

  send(request: LiveRequest): void {
    this.tell(request);
  }

  /** Browsers start sound only from a press of the user's. */
  async play(): Promise<void> {
    await this.context.resume();
    this.send({ type: 'play' });
  }

  private tell(request: WorkletRequest): void {
    this.node.port.postMessage(request);
  }

  /** Ends the sound and lets go of everything, in the worklet too: what a closed context still refers to stays in memory. */
  async close(): Promise<void> {
    this.tell({ type: 'end' });
    this.node.port.onmessage = null;
    this.node.disconnect();
    await this.context.close();
    this.node.port.close();
  }
}
