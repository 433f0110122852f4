import type { StoreApi } from 'zustand/vanilla';
import { sentenceOf } from '../../core/sentence-of';
import { changeWords } from '../../core/lane/change-words';
import { sameData } from '../../core/lane/same-data';
import type { Lane } from '../../core/lane/schema';
import { MAX_LABEL, type SaveLane, type VersionState, versionStateSchema } from '../../contracts/version';
import { api, ApiError } from '../api';
import { gesture, onRelease } from '../kit/hold';
import type { LaneState } from './lane-editor';
import { NO_OUTBOX, type LaneOutbox } from './lane-outbox';

/** Turns of a wheel and presses of a key that follow each other within this time are one step. */
const SAVE_DELAY_MS = 500;
/** Waits before the next try while the server can't be reached; the last one is repeated. */
const RETRY_MS = [1000, 2000, 5000, 10_000];

export type Direction = 'undo' | 'redo';

/** Keeps the history of a version; both give the version as it is then. Throws an Error with a sentence. */
export interface LaneHistory {
  /** Saves a lane as the next step. */
  save(versionId: string, step: SaveLane): Promise<VersionState>;
  /** Goes one step back or forward from step `after`. */
  go(versionId: string, direction: Direction, after: number): Promise<VersionState>;
}

/** Keeps it on the server; a page that is being left does not stop it. */
export const serverHistory: LaneHistory = {
  save: (id, step) =>
    api(versionStateSchema, `/api/versions/${id}/lane`, { method: 'PUT', body: step, keepalive: true }),
  go: (id, direction, after) =>
    api(versionStateSchema, `/api/versions/${id}/${direction}`, { method: 'POST', body: { after }, keepalive: true }),
};

/** A change of the lane, or a move through the saved history, that is not on the server yet. */
interface Step {
  kind: 'change' | Direction;
  lane: Lane;
  /** The lane before it. */
  before: Lane;
  /** What was changed; of a move, what it takes back or does again. */
  label: string;
  /** Belongs to the step before it, and is none of its own. */
  amends: boolean;
  /** The press that it came from, until it was let go; null for none. */
  gesture?: number | null;
}

/** A step as it can be saved under its own name. */
function wordsOf({ kind, label, before, lane }: Step): string {
  return (kind === 'undo' ? `Undo ${label}` : changeWords(label, before, lane)).slice(0, MAX_LABEL);
}

/** A saved step: its lane, and what was done there. */
interface Saved {
  lane: Lane;
  label: string;
}

/** Whether the server is away or too busy, so that the same request may work later. */
function isPassing(error: unknown): boolean {
  return error instanceof ApiError && (error.status === 0 || error.status === 429 || error.status >= 500);
}

/**
 * Saves the steps of the open lane in order, each a moment after its last change. While the server can't be reached they
 * are kept, and sent when it is back. Undo and redo work meanwhile: on what is not saved, and on the saved steps that this
 * page has seen.
 */
export class LaneSaver {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private retry: ReturnType<typeof setTimeout> | undefined;
  private tries = 0;
  /** Steps that are not saved yet, the oldest first; the last may still be changing. */
  private steps: Step[] = [];
  /** Steps that redo takes, the next one last. */
  private undone: Step[] = [];
  private changing = false;
  private inFlight: Step | null = null;
  /** The sending under way; the next one waits for it. */
  private sending: Promise<void> = Promise.resolve();
  private reported = false;
  /** Saved steps that were seen here, by their number, of one version. */
  private seen = new Map<number, Saved>();
  private seenOf = '';

  constructor(
    private readonly store: StoreApi<LaneState>,
    private readonly report: (problem: string | null) => void,
    private readonly history: LaneHistory,
    private readonly outbox: LaneOutbox = NO_OUTBOX,
  ) {
    this.see(this.version);
  }

  /** Goes on with what a page that is gone did not get to save of the version. */
  async restore(): Promise<void> {
    const { id } = this.version;
    const left = await this.outbox.takeLeft(id);
    if (!left || this.version.id !== id || this.steps.length > 0) return;
    const { lane } = left.steps.at(-1)!;
    // It had arrived; only the answer had not.
    if (sameData(lane, this.version.lane)) return this.outbox.keep(id, null);
    const changed = left.after !== this.version.step;
    this.steps = left.steps;
    this.store.setState({ version: { ...this.version, lane } });
    this.tell(changed ? 'conflict' : 'saving');
    if (!changed) await this.flush();
  }

  /** Notes a version as the server has it. */
  see({ id, step, lane, undo }: VersionState): void {
    if (id !== this.seenOf) this.seen.clear();
    this.seenOf = id;
    this.seen.set(step, { lane, label: undo ?? 'Start' });
    this.tell(this.store.getState().saving);
  }

  /** The lane was changed from what it was before: one step, named by the label. */
  step(label: string, before: Lane): void {
    const last = this.steps.at(-1);
    const held = gesture();
    const step: Step = { kind: 'change', lane: this.version.lane, before, label, amends: false, gesture: held };
    const same = last?.kind === 'change' && (held === null ? last.label === label : last.gesture === held);
    if (last && same && this.changing) Object.assign(last, step, { before: last.before });
    else this.steps.push(step);
    this.undone = [];
    this.later();
  }

  /** The lane was changed by what followed from its last step: part of that. */
  amend(before: Lane): void {
    const last = this.steps.at(-1);
    const { lane } = this.version;
    if (last?.kind === 'change' && last !== this.inFlight) last.lane = lane;
    else this.steps.push({ kind: 'change', lane, before, label: 'Makeup', amends: true });
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

  /** Takes the last step back; false when the lane before it is not known here. */
  undo(): boolean {
    const last = this.steps.at(-1);
    if (last === this.inFlight && last) return false;
    if (last && last.kind !== 'undo' && !last.amends) {
      this.steps.pop();
      this.undone.push(last);
      return this.show(last.before);
    }
    const at = this.place;
    const target = this.seen.get(at - 1);
    if (!target) return false;
    const label = this.seen.get(at)?.label ?? '';
    const { lane: before } = this.version;
    if (last?.amends) this.steps.pop();
    this.steps.push({ kind: 'undo', lane: target.lane, before, label, amends: false });
    this.undone.push({ kind: 'redo', lane: before, before: target.lane, label, amends: false });
    return this.show(target.lane);
  }

  /** Does the step again that was last taken back; false when it is not known here. */
  redo(): boolean {
    const step = this.undone.pop() ?? this.nextSeen();
    if (!step) return false;
    const last = this.steps.at(-1);
    // A move that was not sent needs no move back.
    if (step.kind === 'redo' && last?.kind === 'undo' && last !== this.inFlight) this.steps.pop();
    else this.steps.push(step);
    return this.show(step.lane);
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
    const { lane } = this.version;
    if (last) this.steps = [{ kind: 'change', lane, before: last.before, label: wordsOf(last), amends: false }];
    this.undone = [];
    this.tell('saving');
  }

  private get version(): VersionState {
    return this.store.getState().version;
  }

  /** The step of the history at which the lane will be when all is sent. */
  private get place(): number {
    const moved = { change: 1, redo: 1, undo: -1 };
    return this.steps.reduce((at, { kind, amends }) => at + (amends ? 0 : moved[kind]), this.version.step);
  }

  /** The saved step after the lane as it is, where it is known. */
  private nextSeen(): Step | null {
    const next = this.steps.some(({ kind }) => kind === 'change') ? null : this.seen.get(this.place + 1);
    const { redo, lane: before } = this.version;
    return next && redo !== null ? { kind: 'redo', before, ...next, amends: false } : null;
  }

  private show(lane: Lane): true {
    this.changing = false;
    this.store.setState({ version: { ...this.version, lane } });
    this.tell(this.steps.length === 0 ? 'saved' : this.store.getState().saving);
    return true;
  }

  private tell(saving: LaneState['saving']): void {
    const { version } = this;
    const last = this.steps.at(-1);
    const unsaved = this.steps.map(wordsOf);
    const known = this.seen.has(this.place - 1) ? (this.seen.get(this.place)?.label ?? null) : null;
    const { id, step: after } = version;
    this.outbox.keep(id, last ? { after, steps: this.steps.map(({ gesture: _, ...step }) => step) } : null);
    this.store.setState({
      saving,
      unsaved,
      undo: last ? (last.kind === 'undo' || last.amends ? known : wordsOf(last)) : version.undo,
      redo: this.undone.at(-1)?.label ?? (last ? (this.nextSeen()?.label ?? null) : version.redo),
    });
  }

  private later(): void {
    this.changing = true;
    const { saving } = this.store.getState();
    this.tell(saving === 'saved' ? 'saving' : saving);
    clearTimeout(this.timer);
    // A press is one step, however long it lasts.
    onRelease(() => {
      clearTimeout(this.timer);
      this.timer = setTimeout(() => void this.flush(), SAVE_DELAY_MS);
    });
  }

  private async sendAll(): Promise<void> {
    // What began to change again is sent when it has come to rest.
    while (this.steps.length > (this.changing ? 1 : 0)) {
      const [first] = this.steps;
      const { id, step } = this.version;
      this.inFlight = first;
      try {
        const { kind, lane, amends } = first;
        const saved =
          kind === 'change'
            ? await this.history.save(id, { lane, label: wordsOf(first), after: step, amends })
            : await this.history.go(id, kind, step);
        this.steps.shift();
        // A change drops what was undone before it.
        if (kind === 'change') for (const at of this.seen.keys()) if (at >= saved.step) this.seen.delete(at);
        // What was changed since keeps its lane and takes the new step.
        const { lane: now, pins } = this.version;
        const moved = kind !== 'change' && now === lane && !sameData(saved.lane, now);
        this.store.setState({ version: { ...saved, lane: moved ? saved.lane : now, pins } });
        this.see(saved);
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
      this.report(sentenceOf(error));
    }
  }
}
