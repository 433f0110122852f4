import type { StoreApi } from 'zustand/vanilla';
import type { Lane } from '../../core/lane/schema';
import type { ImpulseResponse } from '../../core/stages/definition';
import { levelMatch, type LevelMatch } from '../../engine/sources/level-match';
import { PassClient } from '../../engine/measure/client';
import type { Measurement, ProgrammeReading } from '../../engine/measure/measurement';
import type { Listening } from './listening';
import type { Impulses } from './impulses';
import type { WorkspaceState } from './track-state';

/** What the master is compared with at equal loudness: the untouched mix, or the lane without one of its stages. */
export class Comparison {
  /** Measures the lane without the stage. */
  private client: PassClient | null = null;
  /** What it measured; null until that is known. */
  private reading: ProgrammeReading | null = null;

  constructor(
    private readonly store: StoreApi<WorkspaceState>,
    private readonly listening: Listening,
    private readonly impulses: () => Impulses | null,
  ) {}

  private get state(): WorkspaceState {
    return this.store.getState();
  }

  /** Compares with the lane without a stage and goes there; null: with the mix again, and back to the master. */
  hearWithout(stage: string | null): void {
    this.against(stage);
    this.listening.listen(stage ? 'mix' : 'master');
  }

  /** Follows a change of the lane; a stage that is gone or off is no longer compared with. */
  follow({ stages }: Lane): void {
    const { against } = this.state;
    if (!against) return;
    if (stages.some(({ id, on }) => id === against && on)) this.sendLane();
    else this.against(null);
  }

  /** Measures what is compared with anew. */
  measure(): void {
    const { against, audio } = this.state;
    if (!against || !audio) return;
    if (!this.client) {
      this.client = new PassClient(audio, null, {
        onProgress: () => {},
        onResult: ({ master }) => {
          this.reading = master;
          this.matchLevels();
        },
        onFailure: (problem) => this.store.setState({ problem }),
      });
      this.impulses()?.giveTo((name, response) => this.client?.addImpulse(name, response));
    }
    this.client.run(this.laneWithout(against));
  }

  /** Matches both sides by what is known of them. */
  matchLevels(): void {
    const { pass, against } = this.state;
    const other = against ? this.reading : pass?.mix;
    this.store.setState({ matchEstimated: !pass || !other });
    if (pass && other) this.listening.match(levelMatch(other, pass.master));
    else if (pass && against) this.listening.match(this.matchAround(against, pass));
  }

  addImpulse(name: string, response: ImpulseResponse): void {
    this.client?.addImpulse(name, response);
  }

  /** Forgets what was measured and lets go of the worker. */
  end(): void {
    this.reading = null;
    this.client?.close();
    this.client = null;
  }

  private against(stage: string | null): void {
    if (stage === this.state.against) return;
    this.end();
    this.store.setState({ against: stage });
    this.sendLane();
    this.measure();
    this.matchLevels();
  }

  private sendLane(): void {
    const { against } = this.state;
    this.listening.send({ type: 'against', lane: against ? this.laneWithout(against) : null });
  }

  private laneWithout(stage: string): Lane {
    const { lane } = this.state.version;
    return { ...lane, stages: lane.stages.filter(({ id }) => id !== stage) };
  }

  /** What a stage does to loudness and peak, until the lane without it was measured. */
  private matchAround(stage: string, { joints }: Measurement): LevelMatch {
    const index = this.state.version.lane.stages.findIndex(({ id }) => id === stage);
    return index < 0 || !joints[index + 1] ? this.state.match : levelMatch(joints[index], joints[index + 1]);
  }
}
