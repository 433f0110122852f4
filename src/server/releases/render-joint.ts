import { crossfade } from '../../core/sequence/assemble';
import { edgeGain, firstFrame, spanOf, WHOLE_MIX } from '../../core/sequence/edges';
import { placeTracks, type Joint } from '../../core/sequence/joint';
import { decodePassage64 } from '../codecs/decode';
import { start } from '../codecs/process';
import { decodeImpulses, requireImpulses } from '../impulses/impulses';
import type { OrderedLane } from '../render/delivery';
import { converted } from '../render/convert';
import { cutToEdges, MOST_TAIL_SECONDS } from '../render/cut-to-edges';
import { throughStages } from '../render/through-stages';
import type { AudioStore } from '../store/audio-store';

/** Seconds of each track that are heard. */
const HEARD_SECONDS = 8;
/** Seconds that are run before, so that stages have settled. */
const LEAD_SECONDS = 2;

/** The end of one track, how the next one follows, and its start. */
export interface JointOrder {
  ending: OrderedLane;
  joint: Joint;
  starting: OrderedLane;
}

/** The last or the first seconds of a track through its lane: interleaved float64 at the mix's rate. */
async function renderEnd(
  store: AudioStore,
  { mix, workingHash, lane, impulses: stored }: OrderedLane,
  which: 'first' | 'last',
): Promise<AsyncGenerator<Float64Array>> {
  const { sampleRate, channels, frames } = mix;
  const impulses = await decodeImpulses(stored, (hash) => store.locate(hash), sampleRate);
  requireImpulses(lane, impulses);
  const edges = lane.edges ?? WHOLE_MIX;
  const span = spanOf(edges, sampleRate, frames);
  const heard = Math.round(HEARD_SECONDS * sampleRate);
  const from = which === 'last' ? Math.max(span.start, span.end - heard) : firstFrame(edges, sampleRate);
  const to = which === 'last' ? span.end : Math.min(span.end, span.start + heard);
  const startFrame = Math.max(0, Math.min(from, span.start) - Math.round(LEAD_SECONDS * sampleRate));
  const input = await store.locate(workingHash);
  const decoded = decodePassage64(input, channels, startFrame / sampleRate, to - startFrame);
  const running = { stages: lane.stages.filter(({ on }) => on), crossovers: lane.crossovers };
  const through = throughStages(decoded, running, sampleRate, impulses, {
    ...{ edges: edgeGain(lane.edges, { sampleRate, frames }), startFrame },
    tailFrames: lane.edges && which === 'last' ? Math.round(MOST_TAIL_SECONDS * sampleRate) : 0,
  });
  return cutToEdges(through, {
    ...{ edges, sampleRate, frames, startFrame, from },
    ...(which === 'first' ? { to } : {}),
  });
}

async function gathered(signal: AsyncIterable<Float64Array>): Promise<Float64Array> {
  const chunks: Float64Array[] = [];
  for await (const chunk of signal) chunks.push(chunk.slice());
  const all = new Float64Array(chunks.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const chunk of chunks) {
    all.set(chunk, at);
    at += chunk.length;
  }
  return all;
}

/** A file that every browser plays, from interleaved float64. */
async function asFlac(samples: Float64Array, sampleRate: number): Promise<Buffer> {
  const raw = ['-f', 'f64le', '-ac', '2', '-ar', String(sampleRate), '-i', 'pipe:0'];
  const { child, finished } = start('ffmpeg', [...raw, '-c:a', 'flac', '-sample_fmt', 's32', '-f', 'flac', '-']);
  child.stdin.end(Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength));
  const chunks: Buffer[] = [];
  for await (const chunk of child.stdout) chunks.push(chunk as Buffer);
  await finished;
  return Buffer.concat(chunks);
}

/**
 * A joint as it will be heard: the last seconds of a track, the gap or the crossfade, the first seconds of the next. FLAC at the
 * rate of the first. Throws a Problem when an impulse response or a mix is missing.
 */
export async function renderJoint(store: AudioStore, { ending, joint, starting }: JointOrder): Promise<Buffer> {
  const rate = ending.mix.sampleRate;
  const own = starting.mix.sampleRate;
  const first = await gathered(await renderEnd(store, ending, 'last'));
  const start = await renderEnd(store, starting, 'first');
  const second = await gathered(own === rate ? start : converted(start, own, rate));
  const [, placed] = placeTracks(
    [first, second].map(({ length }) => ({ frames: length / 2, joint })),
    rate,
  );
  const all = new Float64Array(2 * placed.end);
  all.set(first);
  const over = all.slice(2 * placed.start, first.length);
  if (over.length > 0)
    crossfade(over, second.subarray(0, over.length), joint.kind === 'crossfade' ? joint.shape : 'linear');
  all.set(second, 2 * placed.start);
  all.set(over, 2 * placed.start);
  return asFlac(all, rate);
}
