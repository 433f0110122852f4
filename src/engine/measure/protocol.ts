import type { ImpulseResponse } from '../../core/stages/definition';
import type { Lane } from '../../core/lane/schema';
import type { Audio, Measurement, Span } from './measurement';

/** What a page asks of the pass worker. */
export type PassRequest =
  | { type: 'load'; audio: Audio; loudest: Span | null }
  | { type: 'response'; name: string; response: ImpulseResponse }
  | { type: 'run'; id: number; lane: Lane };

/** What the pass worker answers; replies of an overtaken run stop coming. */
export type PassReply =
  | { type: 'progress'; id: number; share: number }
  | { type: 'result'; id: number; result: Measurement }
  | { type: 'failed'; id: number; message: string };
