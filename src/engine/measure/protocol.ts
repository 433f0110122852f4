import type { Lane } from '../../core/lane/schema';
import type { ImpulseResponse } from '../../core/stages/definition';
import type { StereoBuffer } from '../sources/places';
import type { Audio, RenderedMaster, RenderedMeasurement, Span } from './measurement';

/** What a page asks of a measuring worker. */
export type MeasuringOrder =
  | { type: 'load'; audio: Audio; loudest: Span | null; keepBytes: number }
  | { type: 'impulse'; name: string; impulse: ImpulseResponse }
  | { type: 'run'; id: number; lane: Lane; output: StereoBuffer | null }
  /** Renders only, and measures no more than the level. */
  | { type: 'render'; id: number; lane: Lane; output: StereoBuffer }
  /** Ends a run, which answers that it was aborted. */
  | { type: 'abort'; id: number };

/** What the measuring worker answers. */
export type MeasuringReply =
  | { type: 'progress'; id: number; share: number }
  | { type: 'result'; id: number; measurement: RenderedMeasurement }
  | { type: 'rendered'; id: number; rendered: RenderedMaster }
  | { type: 'aborted'; id: number }
  | { type: 'failed'; id: number; problem: string };
