import type { LevelRunner } from '../../../engine/measure/level-runner';
import type { Audio, Span } from '../../../engine/measure/measurement';
import type { SourceLevel } from '../../../engine/sources/level-match';
import type { StereoBuffer } from '../../../engine/sources/places';

/** A passage shorter than this is measured as if it went on so far: loudness is made of blocks of 400 ms. */
const LEAST_SECONDS = 0.4;

/** Loudness of candidates within a passage of the track: measured once for each signal and passage. */
export class PassageLevels {
  /** By what was rendered or fetched, not by its memory, which is used again. */
  private readonly known = new WeakMap<StereoBuffer, { passage: string; level: SourceLevel | null }>();
  /** What was measured last of each candidate: it counts until its newer signal is measured. */
  private last: { passage: string; levels: Map<string, SourceLevel> } = { passage: '', levels: new Map() };

  constructor(private readonly runner: Pick<LevelRunner, 'measure'>) {}

  /**
   * Levels within a passage in frames, by candidate: the loudness of the passage, and the true peak of the whole. Until that
   * is measured, and without a signal, the loudness of the whole has to do; `onMore` is told when more is measured.
   */
  within(
    levels: Readonly<Record<string, SourceLevel>>,
    buffers: Readonly<Record<string, StereoBuffer>>,
    sampleRate: number,
    { start, end }: Span,
    onMore: () => void,
  ): Record<string, SourceLevel> {
    const span = { start, end: Math.max(end, start + Math.ceil(LEAST_SECONDS * sampleRate)) };
    const passage = `${span.start}-${span.end}`;
    if (this.last.passage !== passage) this.last = { passage, levels: new Map() };
    return Object.fromEntries(
      Object.entries(levels).map(([id, level]) => {
        const buffer = Object.hasOwn(buffers, id) ? buffers[id] : null;
        const known = buffer && this.known.get(buffer);
        if (buffer && known?.passage !== passage) this.measure(buffer, { ...buffer, sampleRate }, span, onMore);
        else if (known?.level) this.last.levels.set(id, known.level);
        const { integratedLufs } = this.last.levels.get(id) ?? level;
        return [id, { ...level, integratedLufs }];
      }),
    );
  }

  private measure(buffer: StereoBuffer, audio: Audio, span: Span, onMore: () => void): void {
    const passage = `${span.start}-${span.end}`;
    this.known.set(buffer, { passage, level: null });
    this.runner.measure(audio, span).then(
      (level) => {
        if (this.known.get(buffer)?.passage !== passage) return;
        this.known.set(buffer, { passage, level });
        onMore();
      },
      // It keeps the gain it has; the next passage is tried again.
      () => {},
    );
  }
}
