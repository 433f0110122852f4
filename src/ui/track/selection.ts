import { createStore } from 'zustand/vanilla';
import type { Lane } from '../../core/lane/schema';

/** What of the lane is open. */
export interface SelectionState {
  stage: string | null;
  /** Of an equalizer its band, of a stage that works by bands the lane's. */
  band: number;
  /** Whether the open stage is ready for a sweep. */
  sweeping: boolean;
}

/** Which stage and band of the lane are open. */
export class Selection {
  readonly store;

  constructor(opened: Pick<SelectionState, 'stage' | 'band'>) {
    this.store = createStore<SelectionState>(() => ({ ...opened, sweeping: false }));
  }

  openStage(stage: string | null): void {
    this.store.setState({ stage, band: 0, sweeping: false });
  }

  openBand(band: number): void {
    this.store.setState({ band });
  }

  armSweep(sweeping: boolean): void {
    this.store.setState({ sweeping });
  }

  /** Keeps to stages that are there: the first when the open one is gone. */
  follow({ stages }: Lane): void {
    if (!stages.some(({ id }) => id === this.store.getState().stage)) this.openStage(stages[0]?.id ?? null);
  }
}
