import { ListeningEngine } from './listening-engine';
import type { LiveOptions, WorkletReply, WorkletRequest } from './protocol';

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
    /** Null once it has ended. */
    private engine: ListeningEngine | null;
    private framesToReading = 0;
    /** Something changed while nothing plays: one more reading is due. */
    private changed = true;

    constructor({ processorOptions }: { processorOptions: LiveOptions }) {
      super();
      this.engine = new ListeningEngine(processorOptions);
      this.port.onmessage = ({ data }: MessageEvent<WorkletRequest>) => {
        if (data.type === 'end') {
          this.engine = null;
          this.port.onmessage = null;
          return;
        }
        this.engine?.receive(data);
        this.changed = true;
      };
    }

    process(_inputs: Float32Array[][], [[left, right]]: Float32Array[][]): boolean {
      const { engine } = this;
      // The browser drops a processor that says so.
      if (!engine) {
        this.tell('ended');
        this.port.close();
        return false;
      }
      engine.render(left, right);
      this.framesToReading -= left.length;
      if (this.framesToReading > 0) return true;
      const { idle } = engine;
      if (idle && !this.changed) return true;
      this.framesToReading = sampleRate / READINGS_PER_SECOND;
      this.tell(engine.readings());
      this.changed = !idle;
      return true;
    }

    private tell(reply: WorkletReply): void {
      this.port.postMessage(reply);
    }
  },
);
