import { BalanceMeter, type BalanceBand } from '../../core/measure/balance';
import { sentenceOf } from '../../core/sentence-of';
import type { SourceLevel } from '../sources/level-match';
import { notUnderstood } from './not-understood';
import type { Audio, Span } from './measurement';
import { peakPlaces, type PeakPlace } from './peak-places';
import { sourceLevel } from './source-level';

/** A stretch of a source whose level is asked for, or a source whose balance or highest peaks are. */
export type LevelOrder = { id: number; audio: Audio } & (
  { what: 'level'; span: Span } | { what: 'balance' } | { what: 'peaks' }
);

export type LevelReply = { id: number } & (
  { level: SourceLevel } | { balance: BalanceBand[] } | { peaks: PeakPlace[] } | { problem: string }
);

function answer(order: LevelOrder): LevelReply {
  const { id, audio } = order;
  if (order.what === 'level') return { id, level: sourceLevel(audio, order.span) };
  if (order.what === 'peaks') return { id, peaks: peakPlaces(audio) };
  if (order.what !== 'balance') return notUnderstood(order);
  const meter = new BalanceMeter(audio.sampleRate);
  meter.add(audio.left, audio.right);
  return { id, balance: meter.result() };
}

/** Measures sources outside the page's own thread, one after another. */
self.onmessage = ({ data }: MessageEvent<LevelOrder>) => {
  try {
    self.postMessage(answer(data));
  } catch (error) {
    self.postMessage({ id: data.id, problem: sentenceOf(error) } satisfies LevelReply);
  }
};
