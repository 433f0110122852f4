import { LiveLane } from './live-lane';
import type { LiveOptions, LiveRequest } from './protocol';

/** What the worklet's own scope offers; TypeScript's browser types leave it out. */
declare const sampleRate: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(
  name: string,
  processor: new (options: { processorOptions: LiveOptions }) => AudioWorkletProcessor,
): void;

const READINGS_PER_SECOND = 30;

registerProcessor(
  'copper-lane',
  class extends AudioWorkletProcessor {
    private readonly live: LiveLane;
    private framesToReading = 0;

    constructor({ processorOptions }: { processorOptions: LiveOptions }) {
      super();
      this.live = new LiveLane(processorOptions);
      this.port.onmessage = ({ data }: MessageEvent<LiveRequest>) => this.live.receive(data);
    }

    process(_inputs: Float32Array[][], [[left, right]]: Float32Array[][]): boolean {
      this.live.render(left, right);
      this.framesToReading -= left.length;
      if (this.framesToReading <= 0) {
        this.framesToReading += sampleRate / READINGS_PER_SECOND;
        this.port.postMessage(this.live.readings());
      }
      return true;
    }
  },
);
