import type { Lane } from '../../core/lane/schema';
import type { ImpulseResponse } from '../../core/stages/definition';
import { Cancelled, type MeasuringQueue, type Priority, type ResultFor } from '../../engine/measure/queue';

/** What lanes are measured with: the queue, and uploaded impulse responses that are fetched when a lane needs them. */
export interface MeasuringBench {
  queue: MeasuringQueue;
  /** Uploaded impulse responses that are here once a lane's are, by name. */
  impulsesFor: (lane: Lane) => Promise<Record<string, ImpulseResponse>>;
}

/** How something is on its way: the share that is done, and how to end it. */
export interface OnItsWay {
  onShare: (share: number) => void;
  signal: AbortSignal;
}

/**
 * Measures and renders a lane besides the one being edited. Rejects with a sentence, or as the queue does when it is no
 * longer wanted; `release` gives the rendered buffer back.
 */
export async function measureLane<P extends Priority>(
  { subject, lane, priority }: { subject: string; lane: Lane; priority: P },
  { queue, impulsesFor }: MeasuringBench,
  { onShare, signal }: OnItsWay,
): Promise<{ measurement: ResultFor<P>; release: () => void }> {
  await impulsesFor(lane);
  if (signal.aborted) throw new Cancelled();
  const ticket = queue.request({ subject, lane, priority, onProgress: onShare });
  const release = () => ticket.release();
  signal.addEventListener('abort', release, { once: true });
  const measurement = await ticket.result;
  signal.removeEventListener('abort', release);
  return { measurement, release };
}
