import { createStore } from 'zustand/vanilla';
import { sentenceOf } from '../../../core/sentence-of';
import {
  encodeChecksSchema,
  passageEncodesSchema,
  type EncodeCheck,
  type NewEncodeCheck,
  type PassageEncodes,
} from '../../../contracts/encode-check';
import type { Encode } from '../../../core/deliver/encode';
import { api, send } from '../../api';

export interface EncodeChecksState {
  /** Checks of the lane as it is saved; none while it is not known whether there are. */
  checks: readonly EncodeCheck[];
  problem: string | null;
  /** What encodes make of the loudest passage; null before that is known. */
  passage: PassageEncodes | null;
  /** Whether that is of the lane as it stands. */
  passageFresh: boolean;
}

/** While something is encoded the server is asked again after so many ms. */
const AGAIN_MS = 700;

const underWay = ({ status }: EncodeCheck) => status === 'waiting' || status === 'encoding';

/** Checks of the open version in lossy encodes, which the server makes. */
export class EncodeChecks {
  readonly store = createStore<EncodeChecksState>(() => ({
    ...{ checks: [], problem: null, passage: null, passageFresh: false },
  }));
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** Counts the lanes: an answer about an older one is no answer. */
  private lane = 0;
  private asking: AbortController | null = null;
  private closed = false;

  /** `version` is the open one; `onFinished` is told when a check has ended. */
  constructor(
    private readonly version: () => string,
    private readonly onFinished: () => void,
  ) {}

  /** The lane has changed: what was checked was another. */
  forget(): void {
    this.lane++;
    clearTimeout(this.timer);
    this.store.setState({ checks: [], problem: null, passageFresh: false });
  }

  /** Has the loudest passage of the saved lane encoded; a newer call ends an older one. */
  async checkPassage(encodes: readonly Encode[]): Promise<void> {
    this.asking?.abort();
    if (encodes.length === 0) return;
    const { lane } = this;
    const { signal } = (this.asking = new AbortController());
    try {
      const path = `/api/versions/${this.version()}/passage-encodes`;
      const passage = await api(passageEncodesSchema, path, { method: 'POST', body: { encodes }, signal });
      if (lane === this.lane && !this.closed) this.store.setState({ passage, passageFresh: true });
    } catch {
      // The next change asks again; the whole master can be checked at any time, and says what is wrong.
      if (!signal.aborted && lane === this.lane) this.store.setState({ passage: null });
    }
  }

  /** Asks what is known of the lane as it is saved. */
  async refresh(): Promise<void> {
    clearTimeout(this.timer);
    const { lane } = this;
    try {
      const checks = await api(encodeChecksSchema, `/api/versions/${this.version()}/encodes`);
      if (lane !== this.lane || this.closed) return;
      const before = this.store.getState().checks;
      this.store.setState({ checks, problem: null });
      if (
        checks.some(
          ({ id, status }) => status === 'finished' && before.some((each) => each.id === id && underWay(each)),
        )
      )
        this.onFinished();
      if (checks.some(underWay)) this.timer = setTimeout(() => void this.refresh(), AGAIN_MS);
    } catch (error) {
      if (lane === this.lane) this.store.setState({ problem: sentenceOf(error) });
    }
  }

  /** Has the saved lane checked in an encode. */
  async start(check: NewEncodeCheck): Promise<void> {
    try {
      await send(`/api/versions/${this.version()}/encodes`, { method: 'POST', body: check });
      await this.refresh();
    } catch (error) {
      this.store.setState({ problem: sentenceOf(error) });
    }
  }

  close(): void {
    this.closed = true;
    this.asking?.abort();
    clearTimeout(this.timer);
  }
}
