import { rm } from 'node:fs/promises';
import type { PassageEncodes } from '../../contracts/encode-check';
import type { Encode } from '../../core/deliver/encode';
import { encodeSampleRate } from '../../core/deliver/encode';
import type { Lane } from '../../core/lane/schema';
import { edgeGain } from '../../core/sequence/edges';
import { decodePassage64 } from '../codecs/decode';
import { decodeImpulses, requireImpulses, type StoredImpulse } from '../impulses/impulses';
import { throughStages } from '../render/through-stages';
import type { AudioStore } from '../store/audio-store';
import { figuresTold } from './figures-told';
import { measureProgramme } from './encode-check';
import { encodeSamples } from './encode-samples';

/** Pre-roll: compressors and limiters have settled when the passage begins. */
const LEAD_SECONDS = 2;
/** What is cut out begins and ends in silence: an encoder would ring at an edge. */
const FADE_SECONDS = 0.01;

/** What a passage of a master is checked in encodes from. */
export interface PassageOrder {
  encodes: readonly Encode[];
  lane: Lane;
  workingHash: string;
  /** Hz */
  sampleRate: number;
  /** Passage of the mix, in frames. */
  start: number;
  end: number;
  impulses: Record<string, StoredImpulse>;
}

/** Leaves out frames at the head of interleaved stereo, and fades what is left in and out. */
async function* cutOut(
  input: AsyncIterable<Float64Array>,
  head: number,
  frames: number,
  fade: number,
  signal: AbortSignal,
): AsyncGenerator<Float64Array> {
  let frame = -head;
  for await (const chunk of input) {
    signal.throwIfAborted();
    const first = Math.min(chunk.length / 2, Math.max(0, -frame));
    const kept = chunk.slice(2 * first, 2 * Math.min(chunk.length / 2, frames - frame));
    for (let i = 0; i < kept.length; i++) {
      const at = frame + first + (i >> 1);
      kept[i] *= Math.min(1, (at + 1) / fade, (frames - at) / fade);
    }
    frame += chunk.length / 2;
    if (kept.length > 0) yield kept;
  }
}

/** Figures of a passage and of its encodes. */
export type PassageFigures = Omit<PassageEncodes, 'step'>;

/**
 * Runs a passage of a mix through a lane, encodes it in several ways at once and measures all of it. Rejects soon after
 * `signal` aborts.
 */
export async function checkPassage(
  store: AudioStore,
  order: PassageOrder,
  signal: AbortSignal,
): Promise<PassageFigures> {
  const { encodes, lane, sampleRate, start, end } = order;
  const impulses = await decodeImpulses(order.impulses, (hash) => store.locate(hash), sampleRate);
  requireImpulses(lane, impulses);
  const lead = Math.min(start, Math.round(LEAD_SECONDS * sampleRate));
  const frames = end - start;
  const input = await store.locate(order.workingHash);
  const decoded = decodePassage64(input, 2, (start - lead) / sampleRate, lead + frames);
  const stages = lane.stages.filter(({ on }) => on);
  const edges = edgeGain(lane.edges, { sampleRate, frames: Infinity });
  const place = { edges, startFrame: start - lead };
  const master = throughStages(decoded, { ...lane, stages }, sampleRate, impulses, place);
  const targets = await Promise.all(
    encodes.map(async (encode) => ({ encode, path: await store.temporary('.encode') })),
  );
  try {
    const passage = cutOut(master, lead, frames, Math.round(FADE_SECONDS * sampleRate), signal);
    const source = await encodeSamples(passage, { sampleRate, maxFrames: frames }, targets);
    signal.throwIfAborted();
    const measured = await Promise.all(
      targets.map(async ({ encode, path }) => {
        const rate = encodeSampleRate(encode.codec, sampleRate);
        const figures = await measureProgramme(path, rate, Math.ceil((frames / sampleRate + 1) * rate));
        return { ...encode, figures: figuresTold(figures) };
      }),
    );
    return { source: figuresTold(source), encodes: measured };
  } finally {
    for (const { path } of targets) await rm(path, { force: true });
  }
}
