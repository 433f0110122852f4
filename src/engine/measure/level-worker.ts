import type { SourceLevel } from '../sources/level-match';
import type { Audio, Span } from './measurement';
import { sourceLevel } from './source-level';

/** A stretch of a source whose level is asked for. */
export interface LevelOrder {
  id: number;
  audio: Audio;
  span: Span;
}

export interface LevelReply {
  id: number;
  level: SourceLevel;
}

/** Measures levels of sources outside the page's own thread, one after another. */
self.onmessage = ({ data: { id, audio, span } }: MessageEvent<LevelOrder>) => {
  const reply: LevelReply = { id, level: sourceLevel(audio, span) };
  self.postMessage(reply);
};
