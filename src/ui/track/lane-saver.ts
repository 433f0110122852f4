import type { StoreApi } from 'zustand/vanilla';
import { type SaveLane, type VersionState, versionStateSchema } from '../../contracts/version';
import { api } from '../api';
import type { LaneState } from './lane-editor';

const SAVE_DELAY_MS = 250;

/** Saves a lane as a step of a version's history; gives the version as it is then. Throws an Error with a sentence. */
export type SavesLanes = (versionId: string, step: SaveLane) => Promise<VersionState>;

/** Saves on the server; a page that is being left does not stop it. */
export const saveOnServer: SavesLanes = (id, step) =>
  api(versionStateSchema, `/api/versions/${id}/lane`, { method: 'PUT', body: step, keepalive: true });

/** Saves the open lane a moment after its last change, one save after another. What fails is kept and tried again. */
export class LaneSaver {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private label = '';
  /** The save under way; the next one waits for it. */
  private saving: Promise<void> = Promise.resolve();
  private dirty = false;
  /** Whether what is not saved yet belongs to the last step. */
  private amends = false;
  private failed = false;

  constructor(
    private readonly store: StoreApi<LaneState>,
    private readonly report: (problem: string | null) => void,
    private readonly save: SavesLanes,
  ) {}

  /** The lane was changed: one step, named by the label. */
  step(label: string): void {
    this.label = label;
    this.amends = false;
    this.later();
  }

  /** The lane was changed by what followed from its last step: part of that. */
  amend(): void {
    if (!this.dirty) this.amends = true;
    this.later();
  }

  private later(): void {
    this.dirty = true;
    this.store.setState({ saving: 'saving' });
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), SAVE_DELAY_MS);
  }

  /** Saves what is not saved yet. */
  flush(): Promise<void> {
    clearTimeout(this.timer);
    this.saving = this.saving.then(() => this.now());
    return this.saving;
  }

  private async now(): Promise<void> {
    if (!this.dirty) return;
    this.dirty = false;
    const { amends } = this;
    const { id, lane, step } = this.store.getState().version;
    try {
      const saved = await this.save(id, { lane, label: this.label || 'Makeup', after: step, amends });
      const { version } = this.store.getState();
      // What was changed since keeps its lane and takes the new step.
      this.store.setState({
        version: { ...saved, lane: version.lane, pins: version.pins },
        saving: this.dirty ? 'saving' : 'saved',
      });
      // A problem that had nothing to do with saving stays until it was read.
      if (this.failed) this.report(null);
      this.failed = false;
    } catch (error) {
      this.dirty = true;
      this.failed = true;
      this.store.setState({ saving: 'failed' });
      this.report((error as Error).message);
    }
  }
}
