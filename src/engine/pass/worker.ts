import { FullPass } from './full-pass';
import type { PassReply, PassRequest } from './protocol';

/** The full pass in a browser worker: a new run overtakes the one under way. */
let pass: FullPass | null = null;
let wanted = 0;

class Overtaken extends Error {}

const channel = new MessageChannel();
let resume: (() => void) | null = null;
channel.port1.onmessage = () => resume?.();

/** Lets waiting messages in; a timer would wait 4 ms each time. */
function breathe(): Promise<void> {
  return new Promise((resolve) => {
    resume = resolve;
    channel.port2.postMessage(null);
  });
}

function reply(message: PassReply): void {
  self.postMessage(message);
}

async function run(request: Extract<PassRequest, { type: 'run' }>): Promise<void> {
  if (!pass) return;
  try {
    const result = await pass.run(request.lane, {
      turn: async (share) => {
        reply({ type: 'progress', id: request.id, share });
        await breathe();
        if (request.id !== wanted) throw new Overtaken();
      },
    });
    reply({ type: 'result', id: request.id, result });
  } catch (error) {
    if (!(error instanceof Overtaken))
      reply({ type: 'failed', id: request.id, message: error instanceof Error ? error.message : String(error) });
  }
}

let last: Promise<void> = Promise.resolve();

self.onmessage = ({ data }: MessageEvent<PassRequest>) => {
  if (data.type === 'load') {
    const { audio, loudest } = data;
    pass = new FullPass(audio, {
      allocate: (frames) => new Float32Array(new SharedArrayBuffer(frames * 4)),
      loudest,
    });
  } else if (data.type === 'response') {
    pass?.responses.set(data.name, data.response);
  } else {
    wanted = data.id;
    last = last.then(() => (data.id === wanted ? run(data) : undefined));
  }
};
