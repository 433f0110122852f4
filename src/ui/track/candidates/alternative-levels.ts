import { alternativesOf, withAlternativeHeard } from '../../../core/lane/alternatives';
import type { Lane } from '../../../core/lane/schema';
import { withStageChanged } from '../../../core/lane/stage-edits';
import { laneKey, type MeasuringQueue } from '../../../engine/measure/queue';
import type { SourceLevel } from '../../../engine/sources/level-match';

/** Lanes whose levels are remembered. */
const REMEMBERED = 64;

/** Levels of the lane with each alternative of the open stage: measured before one switches to it. */
export class AlternativeLevels {
  private readonly known = new Map<string, SourceLevel>();
  private readonly asked = new Set<string>();
  private lanes: Lane[] = [];

  /** `onLevel` is told when a level has become known. */
  constructor(
    private readonly queue: Pick<MeasuringQueue, 'request'>,
    private readonly onLevel: () => void,
  ) {}

  /** The lane, or the open stage, has changed. */
  follow(lane: Lane, open: string | null): void {
    const stage = lane.stages.find(({ id }) => id === open);
    const places = stage?.on ? alternativesOf(stage).length : 1;
    this.lanes =
      places < 2 || open === null
        ? []
        : Array.from({ length: places }, (_, place) => ({
            ...lane,
            stages: withStageChanged(lane.stages, open, (each) => withAlternativeHeard(each, place)),
          }));
    // The one that is heard is measured anyway.
    const heard = laneKey(lane);
    this.lanes.forEach((each, place) => laneKey(each) !== heard && this.measure(each, place));
  }

  /** A lane was measured. */
  learn(lane: Lane, level: SourceLevel): void {
    this.known.set(laneKey(lane), level);
    for (const key of this.known.keys()) if (this.known.size > REMEMBERED) this.known.delete(key);
  }

  /** Level of a lane; undefined where it is not known. */
  of(lane: Lane): SourceLevel | undefined {
    return this.known.get(laneKey(lane));
  }

  /** Levels of the lane with each alternative of the open stage, by names of their own; those that are not known are left out. */
  all(): Record<string, SourceLevel> {
    return Object.fromEntries(
      this.lanes.flatMap((lane, place) => {
        const level = this.of(lane);
        return level ? [[`alternative-${place}`, level]] : [];
      }),
    );
  }

  private measure(lane: Lane, place: number): void {
    const key = laneKey(lane);
    if (this.known.has(key) || this.asked.has(key)) return;
    this.asked.add(key);
    const ticket = this.queue.request({ subject: `alternative-${place}`, lane, priority: 'candidate' });
    void ticket.result
      .then(({ master: { integratedLufs, truePeakDbtp } }) => {
        this.learn(lane, { integratedLufs, truePeakDbtp });
        this.onLevel();
      })
      // Then it is matched when it is heard and measured.
      .catch(() => {})
      .finally(() => {
        this.asked.delete(key);
        ticket.release();
      });
  }
}
