import { createStore } from 'zustand/vanilla';
import type { Lane } from '../../core/lane/schema';
import type { View } from './programme/view';

/** What of the track and its lane is open. */
export interface SelectionState {
  stage: string | null;
  /** Of an equalizer its band, of a stage that works by bands the lane's. */
  band: number;
  /** Whether the open stage is ready for a sweep. */
  sweeping: boolean;
  /** The joint at which stages are offered. */
  adding: number | null;
  /** The stage whose stop takes the focus, until another is opened. */
  focused: string | null;
  /** The part of the programme in view; null: the whole track. */
  view: View | null;
}

/** Which stage and band of the lane are open. */
export class Selection {
  readonly store;

  constructor(opened: Pick<SelectionState, 'stage' | 'band'>) {
    this.store = createStore<SelectionState>(() => ({
      ...opened,
      sweeping: false,
      adding: null,
      focused: null,
      view: null,
    }));
  }

  openStage(stage: string | null): void {
    this.store.setState({ stage, band: 0, sweeping: false, focused: null });
  }

  /** Has the stop of a stage that was opened without the mouse take the focus. */
  focusStage(focused: string): void {
    this.store.setState({ focused });
  }

  openBand(band: number): void {
    this.store.setState({ band });
  }

  armSweep(sweeping: boolean): void {
    this.store.setState({ sweeping });
  }

  /** Offers stages at a joint; null: no longer. */
  offerStages(adding: number | null): void {
    this.store.setState({ adding });
  }

  view(view: View | null): void {
    this.store.setState({ view });
  }

  /** Keeps to stages that are there: the first when the open one is gone. */
  follow({ stages }: Lane): void {
    if (!stages.some(({ id }) => id === this.store.getState().stage)) this.openStage(stages[0]?.id ?? null);
  }
}
