import type { StoreApi } from 'zustand/vanilla';
import type { Lane } from '../../core/lane/schema';
import { type SaveLane, type VersionState, versionStateSchema } from '../../contracts/version';
import { api, ApiError } from '../api';
import type { LaneState } from './lane-editor';

const SAVE_DELAY_MS = 250;
/** Waits before the next try while the server can't be reached; the last one is repeated. */
const RETRY_MS = [1000, 2000, 5000, 10_000];

/** Saves a lane as a step of a version's history; gives the version as it is then. Throws an Error with a sentence. */
export type SavesLanes = (versionId: string, step: SaveLane) => Promise<VersionState>;

/** Saves on the server; a page that is being left does not stop it. */
export const saveOnServer: SavesLanes = (id, step) =>
  api(versionStateSchema, `/api/versions/${id}/lane`, { method: 'PUT', body: step, keepalive: true });

/** A step of the history that is not saved yet. */
interface Step {
  lane: Lane;
  /** The lane before it. */
  before: Lane;
  label: string;
  /** Belongs to the step before it, and is none of its own. */
  amends: boolean;
}

/** Whether the server is away or too busy, so that the same request may work later. */
function isPassing(error: unknown): boolean {
  return error instanceof ApiError && (error.status === 0 || error.status === 429 || error.status >= 500);
}

/**
 * Saves the steps of the open lane in order, each a moment after its last change. While the server can't be reached they
 * are kept, and sent when it is back; the last of them can be taken back meanwhile.
 */
export class LaneSaver {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private retry: ReturnType<typeof setTimeout> | undefined;
  private tries = 0;
  /** Steps that are not saved yet, the oldest first; the last may still be changing. */
  private steps: Step[] = [];
  private undone: Step[] = [];
  private changing = false;
  private inFlight: Step | null = null;
  /** The sending under way; the next one waits for it. */
  private sending: Promise<void> = Promise.resolve();
  private reported = false;

  constructor(
    private readonly store: StoreApi<LaneState>,
    private readonly report: (problem: string | null) => void,
    private readonly save: SavesLanes,
  ) {}

  /** The lane was changed from what it was before: one step, named by the label. */
  step(label: string, before: Lane): void {
    const last = this.steps.at(-1);
    if (last && this.changing) Object.assign(last, { lane: this.lane, label, amends: false });
    else this.steps.push({ lane: this.lane, before, label, amends: false });
    this.undone = [];
    this.later();
  }

  /** The lane was changed by what followed from its last step: part of that. */
  amend(before: Lane): void {
    const last = this.steps.at(-1);
    if (last && last !== this.inFlight) last.lane = this.lane;
    else this.steps.push({ lane: this.lane, before, label: 'Makeup', amends: true });
    this.later();
  }

  /** Saves what is not saved yet. */
  flush(): Promise<void> {
    clearTimeout(this.timer);
    clearTimeout(this.retry);
    this.changing = false;
    this.sending = this.sending.then(() => this.sendAll());
    return this.sending;
  }

  /** Takes the last step back that is not saved; false when there is none. */
  undo(): boolean {
    const last = this.steps.at(-1);
    if (!last || last === this.inFlight || last.amends) return false;
    this.steps.pop();
    this.undone.push(last);
    this.show(last.before);
    return true;
  }

  /** Does the step again that was last taken back; false when there is none. */
  redo(): boolean {
    const step = this.undone.pop();
    if (!step) return false;
    this.steps.push(step);
    this.show(step.lane);
    return true;
  }

  /** Forgets what is not saved. */
  drop(): void {
    clearTimeout(this.timer);
    clearTimeout(this.retry);
    this.steps = [];
    this.undone = [];
    this.changing = false;
    this.tell('saved');
  }

  /** Has what is not saved follow another step of the history, as one step. */
  rebase(): void {
    const last = this.steps.at(-1);
    if (last) this.steps = [{ ...last, lane: this.lane, amends: false }];
    this.tell('saving');
  }

  private get lane(): Lane {
    return this.store.getState().version.lane;
  }

  private show(lane: Lane): void {
    this.changing = false;
    this.store.setState({ version: { ...this.store.getState().version, lane } });
    this.tell(this.steps.length === 0 ? 'saved' : this.store.getState().saving);
  }

  private tell(saving: LaneState['saving']): void {
    const labels = (steps: Step[]) => steps.map(({ label }) => label);
    this.store.setState({ saving, unsaved: labels(this.steps), undone: labels(this.undone) });
  }

  private later(): void {
    this.changing = true;
    const { saving } = this.store.getState();
    this.tell(saving === 'saved' ? 'saving' : saving);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), SAVE_DELAY_MS);
  }

  private async sendAll(): Promise<void> {
    // What began to change again is sent when it has come to rest.
    while (this.steps.length > (this.changing ? 1 : 0)) {
      const [first] = this.steps;
      const { id, step } = this.store.getState().version;
      this.inFlight = first;
      try {
        const { lane, label, amends } = first;
        const saved = await this.save(id, { lane, label, after: step, amends });
        this.steps.shift();
        const { version } = this.store.getState();
        // What was changed since keeps its lane and takes the new step.
        this.store.setState({ version: { ...saved, lane: version.lane, pins: version.pins } });
        this.tell(this.steps.length === 0 ? 'saved' : 'saving');
        // A problem that had nothing to do with saving stays until it was read.
        if (this.reported) this.report(null);
        this.reported = false;
        this.tries = 0;
      } catch (error) {
        this.failed(error);
        return;
      } finally {
        this.inFlight = null;
      }
    }
  }

  private failed(error: unknown): void {
    if (isPassing(error)) {
      this.tell('waiting');
      this.retry = setTimeout(() => void this.flush(), RETRY_MS[Math.min(this.tries++, RETRY_MS.length - 1)]);
    } else if (error instanceof ApiError && error.code === 'versionChanged') {
      this.tell('conflict');
    } else {
      this.tell('failed');
      this.reported = true;
      this.report((error as Error).message);
    }
  }
}
