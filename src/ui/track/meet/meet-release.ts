import { ceilingForEncodes } from '../../../core/deliver/encode-margin';
import { sentenceOf } from '../../../core/sentence-of';
import { releaseDetailSchema } from '../../../contracts/release';
import { trackDetailsSchema, type TrackDetails, chosenVersion } from '../../../contracts/track';
import type { Destination } from '../../../core/deliver/destination';
import { handholdsOf, type Handhold, type Means, type Meeting } from '../../../core/deliver/meet';
import type { Lane } from '../../../core/lane/schema';
import { SolverRunner } from '../../../engine/measure/solver-runner';
import { api } from '../../api';
import { fetchAudio } from '../candidates/candidate-source';
import { Impulses } from '../../impulses';
import type { LaneEditor } from '../lane-editor';
import { growthOf } from './growth';
import { movement, obstacleWords } from './words';

/** What became of a track of the release. */
export interface TrackOutcome {
  title: string;
  /** Whether it meets the destination now. */
  met: boolean;
  sentence: string;
}

/** What is moved in another lane: the same means where it has it, else its limiter, else a trim at its end. */
function sameMeans(lane: Lane, means: Means): Handhold {
  const holds = handholdsOf(lane);
  return holds.find((hold) => hold.means === means) ?? holds[0];
}

const hasMoved = ({ value }: Handhold, meeting: Meeting) => meeting.value !== value || meeting.ceilingDbtp !== null;

/** What a solution means for its track. */
export function outcomeOf(title: string, hold: Handhold, meeting: Meeting): TrackOutcome {
  if (!meeting.met) return { title, met: false, sentence: `Left as it is. ${obstacleWords(meeting)}` };
  const moved = hasMoved(hold, meeting);
  return {
    title,
    met: true,
    sentence: moved ? `${hold.title} ${movement(hold, meeting.value)}.` : 'It met as it stood.',
  };
}

async function meetTrack(
  details: TrackDetails,
  destination: Destination,
  means: Means,
  lane: Pick<LaneEditor, 'replaceLane'>,
  signal: AbortSignal,
): Promise<TrackOutcome> {
  const {
    track: { title },
    mix,
  } = details;
  const version = chosenVersion(details);
  if (mix?.status !== 'ready' || !mix.frames || !mix.report)
    return { title, met: false, sentence: 'Left as it is: it has no mix that is ready.' };
  const { sampleRate } = mix.source;
  const way = { onShare: () => {}, signal };
  const audio = await fetchAudio(`/api/mixes/${mix.id}/audio`, { frames: mix.frames, sampleRate }, sampleRate, way);
  const impulses = new Impulses(sampleRate, () => {});
  await impulses.need(version.lane);
  const solver = new SolverRunner(audio, mix.report, impulses.all());
  signal.addEventListener('abort', () => solver.close(), { once: true });
  try {
    const hold = sameMeans(version.lane, means);
    const ceiling = ceilingForEncodes(destination, growthOf(details.encodes, null));
    const meeting = await solver.meet(version.lane, destination, hold, ceiling);
    signal.throwIfAborted();
    if (meeting.met && hasMoved(hold, meeting))
      await lane.replaceLane(version, meeting.lane, `Meet ${destination.name}`);
    return outcomeOf(title, hold, meeting);
  } finally {
    solver.close();
  }
}

/**
 * Moves the other tracks of a release, in their chosen versions, so that they meet a destination: one step in the
 * history of each. `onOutcome` is told of each as it is done.
 */
export async function meetOthers(
  { release, track }: Pick<TrackDetails, 'release' | 'track'>,
  destination: Destination,
  means: Means,
  lane: Pick<LaneEditor, 'replaceLane'>,
  onOutcome: (outcome: TrackOutcome) => void,
  signal: AbortSignal,
): Promise<void> {
  const { tracks } = await api(releaseDetailSchema, `/api/releases/${release.id}`);
  for (const { id, title } of tracks) {
    if (id === track.id) continue;
    signal.throwIfAborted();
    try {
      const details = await api(trackDetailsSchema, `/api/tracks/${id}`);
      onOutcome(await meetTrack(details, destination, means, lane, signal));
    } catch (error) {
      if (signal.aborted) return;
      onOutcome({ title, met: false, sentence: `Left as it is. ${sentenceOf(error)}` });
    }
  }
}
