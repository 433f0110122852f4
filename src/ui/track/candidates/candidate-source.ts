import type { Candidate } from '../../../contracts/candidate';
import { placeInMix } from '../../../core/sequence/edges';
import { framesAtRate } from '../../../contracts/audio';
import { chosenVersion, type TrackDetails, trackDetailsSchema } from '../../../contracts/track';
import type { Lane } from '../../../core/lane/schema';
import { BYTES_PER_FRAME } from '../../../engine/measure/buffers';
import type { LevelRunner } from '../../../engine/measure/level-runner';
import type { Audio } from '../../../engine/measure/measurement';
import { BudgetReached } from '../../../engine/measure/queue';
import { renderOnce, sharedChannel } from '../../../engine/measure/worker-runner';
import type { SourceLevel } from '../../../engine/sources/level-match';
import type { MemoryBudget } from '../../../engine/sources/memory-budget';
import { MixDecoder } from '../../../engine/sources/mix-decoder';
import type { StereoBuffer } from '../../../engine/sources/places';
import { api } from '../../api';
import { downloadAudio } from '../../audio-download';
import { measureLane, type MeasuringBench, type OnItsWay } from '../measure-lane';

/** What candidates of an open track are rendered and fetched with. */
export interface Workshop extends MeasuringBench {
  budget: MemoryBudget;
  levels: LevelRunner;
  /** Hz: of the open mix, and so of everything that is heard. */
  sampleRate: number;
}

/** A candidate that can be heard. */
export interface HeardSource {
  buffer: StereoBuffer;
  level: SourceLevel;
  /** Gives its memory back. */
  release(): void;
}

/** Share of the whole that fetching a mix takes before it is rendered. */
const FETCH_SHARE = 0.3;

/** Renders a lane of the open track. Rejects with a sentence, or as the queue does when it is no longer wanted. */
export async function renderLane(subject: string, lane: Lane, workshop: Workshop, way: OnItsWay): Promise<HeardSource> {
  const { measurement, release } = await measureLane({ subject, lane, priority: 'candidate' }, workshop, way);
  const { left, right, master } = measurement;
  // It was measured for something else that found no memory to render into.
  if (left.length === 0) {
    release();
    throw new BudgetReached();
  }
  return { buffer: { left, right }, level: master, release };
}

/** Fetches or renders a candidate that is not a lane of the open track. Rejects with a sentence. */
export async function fetchSource(
  what: Extract<Candidate, { kind: 'mix' | 'track' | 'delivery' | 'encode' | 'reference' }>,
  details: TrackDetails,
  workshop: Workshop,
  way: OnItsWay,
): Promise<HeardSource> {
  if (what.kind === 'track') return renderTrack(what.trackId, workshop, way);
  const { path, frames, sampleRate } = storedFile(what, details);
  const memory = reserve(workshop, framesAtRate(frames, sampleRate, workshop.sampleRate));
  try {
    const audio = await fetchAudio(path, { frames, sampleRate }, workshop.sampleRate, way);
    const level = await workshop.levels.measure(audio, { start: 0, end: audio.left.length });
    return { buffer: audio, level, release: memory.release };
  } catch (error) {
    memory.release();
    throw error;
  }
}

/** Takes memory for a stereo signal. Throws when there is none left. */
function reserve({ budget }: Workshop, frames: number): { release: () => void } {
  const bytes = frames * BYTES_PER_FRAME;
  if (!budget.take(bytes)) throw new BudgetReached();
  let held = true;
  return {
    release: () => {
      if (held) budget.give(bytes);
      held = false;
    },
  };
}

/** An audio file of the server. */
export interface Stored {
  frames: number;
  /** Hz */
  sampleRate: number;
}

function storedFile(
  what: Extract<Candidate, { kind: 'mix' | 'delivery' | 'encode' | 'reference' }>,
  details: TrackDetails,
): Stored & { path: string } {
  if (what.kind === 'mix') return mixFile(what.mixId, details);
  if (what.kind === 'encode') return encodedFile(what, details);
  return what.kind === 'delivery' ? deliveredFile(what, details) : referenceFile(what, details);
}

function referenceFile(
  { referenceId }: { referenceId: string },
  { references }: TrackDetails,
): Stored & { path: string } {
  const report = references.find(({ id }) => id === referenceId)?.report;
  if (!report) throw new Error('This reference is no longer there. Reload the page.');
  const { frames, sampleRate } = report;
  return { path: `/api/references/${referenceId}/audio?rate=${sampleRate}`, frames, sampleRate };
}

function mixFile(mixId: string | null, { mixes }: TrackDetails): Stored & { path: string } {
  const mix = mixes.find(({ id }) => id === mixId);
  if (!mix?.frames) throw new Error('This mix is no longer there. Reload the page.');
  return { path: `/api/mixes/${mix.id}/audio`, frames: mix.frames, sampleRate: mix.source.sampleRate };
}

function encodedFile({ encodeId }: { encodeId: string }, { encodes }: TrackDetails): Stored & { path: string } {
  const result = encodes.find(({ id }) => id === encodeId)?.result;
  if (!result) throw new Error('This encode is no longer there. Check the master again.');
  const { frames, sampleRate } = result;
  return { path: `/api/encodes/${encodeId}/audio?rate=${sampleRate}`, frames, sampleRate };
}

function deliveredFile(
  { deliveryId }: { deliveryId: string },
  { deliveries }: TrackDetails,
): Stored & { path: string } {
  const receipt = deliveries.find(({ id }) => id === deliveryId)?.receipt;
  if (!receipt) throw new Error('This delivery has no file. Reload the page.');
  const { sampleRate } = receipt.file;
  const { frames } = placeInMix(receipt.lane.edges, receipt.file);
  return { path: `/api/deliveries/${deliveryId}/audio?rate=${sampleRate}`, frames, sampleRate };
}

/** Fetches audio of the server's, at the rate that is heard. */
export async function fetchAudio(path: string, stored: Stored, sampleRate: number, way: OnItsWay): Promise<Audio> {
  const address = stored.sampleRate === sampleRate ? path : `${path.split('?')[0]}?rate=${sampleRate}`;
  const frames = framesAtRate(stored.frames, stored.sampleRate, sampleRate);
  const decoder = new MixDecoder(frames, sampleRate);
  await downloadAudio(address, { ...way, take: (bytes) => decoder.push(bytes), about: frames * BYTES_PER_FRAME });
  return decoder.finish();
}

/** The master of another track of the release: its chosen version, through its mix in use. */
async function renderTrack(trackId: string, workshop: Workshop, { onShare, signal }: OnItsWay): Promise<HeardSource> {
  const details = await api(trackDetailsSchema, `/api/tracks/${trackId}`);
  const { mix, track } = details;
  const version = chosenVersion(details);
  if (mix?.status !== 'ready' || !mix.frames)
    throw new Error(`The mix of “${track.title}” is not ready. Add it again when its analysis is done.`);
  const stored = { frames: mix.frames, sampleRate: mix.source.sampleRate };
  const frames = framesAtRate(stored.frames, stored.sampleRate, workshop.sampleRate);
  const output = reserve(workshop, frames);
  try {
    const input = reserve(workshop, frames);
    try {
      const fetching = { onShare: (share: number) => onShare(FETCH_SHARE * share), signal };
      const audio = await fetchAudio(`/api/mixes/${mix.id}/audio`, stored, workshop.sampleRate, fetching);
      const impulses = await workshop.impulsesFor(version.lane);
      const buffer = { left: sharedChannel(frames), right: sharedChannel(frames) };
      const rendering = (share: number) => onShare(FETCH_SHARE + (1 - FETCH_SHARE) * share);
      const { master } = await renderOnce(audio, version.lane, impulses, buffer, rendering, signal);
      return { buffer, level: master, release: output.release };
    } finally {
      input.release();
    }
  } catch (error) {
    output.release();
    throw error;
  }
}
