import { createStore, del, get, keys, set, type UseStore } from 'idb-keyval';
import { z } from 'zod';
import { laneSchema } from '../../core/lane/schema';

const stepSchema = z.object({
  kind: z.enum(['change', 'undo', 'redo']),
  ...{ lane: laneSchema, before: laneSchema },
  ...{ label: z.string(), amends: z.boolean() },
});
const keptSchema = z.object({
  schema: z.literal(1),
  /** Number of the step that these follow. */
  after: z.number().int(),
  steps: z.array(stepSchema).min(1),
});

/** Steps of a version that are not on the server yet. */
export type KeptSteps = Omit<z.infer<typeof keptSchema>, 'schema'>;

/** Where steps are safe until the server has them. */
export interface LaneOutbox {
  /** Keeps what is not saved of a version in place of what was kept of it; null when all of it is. */
  keep(versionId: string, kept: KeptSteps | null): void;
  /** What a page that is gone left of a version; it is this page's from now on. */
  takeLeft(versionId: string): Promise<KeptSteps | null>;
}

const SEPARATOR = ' ';
const pageLock = (page: string) => `copper-lane-page-${page}`;

/** Steps on the disk of this browser. Where it keeps nothing, steps go to the server all the same. */
class BrowserOutbox implements LaneOutbox {
  private readonly page = crypto.randomUUID();
  private store: UseStore | null = null;
  private readonly next = new Map<string, KeptSteps | null>();
  private writing = false;

  constructor() {
    // As long as the page lives it holds this: what it keeps is not what a page left.
    void globalThis.navigator?.locks?.request(pageLock(this.page), () => new Promise(() => {})).catch(() => {});
  }

  keep(versionId: string, kept: KeptSteps | null): void {
    this.next.set(versionId, kept);
    if (!this.writing) void this.write();
  }

  async takeLeft(versionId: string): Promise<KeptSteps | null> {
    try {
      const store = this.open();
      const { held = [] } = (await globalThis.navigator?.locks?.query()) ?? {};
      const alive = new Set(held.map(({ name }) => name));
      const all = (await keys<string>(store)).filter((key) => key.startsWith(versionId + SEPARATOR));
      const left = all.filter((key) => !alive.has(pageLock(key.slice(versionId.length + 1))));
      for (const key of left) {
        const { data } = keptSchema.safeParse(await get(key, store));
        await del(key, store);
        if (!data) continue;
        const { after, steps } = data;
        this.keep(versionId, { after, steps });
        return { after, steps };
      }
      return null;
    } catch {
      return null;
    }
  }

  private open(): UseStore {
    return (this.store ??= createStore('copper-lane', 'steps'));
  }

  /** Writes the newest of each version; what comes meanwhile is written next. */
  private async write(): Promise<void> {
    this.writing = true;
    try {
      for (let [first] = this.next; first; [first] = this.next) {
        const [versionId, kept] = first;
        this.next.delete(versionId);
        const key = versionId + SEPARATOR + this.page;
        if (kept) await set(key, { schema: 1, ...kept }, this.open());
        else await del(key, this.open());
      }
    } catch {
      // A browser that keeps nothing: what is not sent is on this page alone, as the page says.
    } finally {
      this.writing = false;
    }
  }
}

let outbox: LaneOutbox | null = null;

/** The outbox of this page. */
export function browserOutbox(): LaneOutbox {
  return (outbox ??= new BrowserOutbox());
}

/** For lanes that are not kept. */
export const NO_OUTBOX: LaneOutbox = { keep: () => {}, takeLeft: () => Promise.resolve(null) };
