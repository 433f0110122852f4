import type { Loop } from '../../engine/live/protocol';
import type { StereoBuffer } from '../../engine/sources/places';
import type { Audition } from './audition';
import type { LiveLink } from './live-link';
import type { Transport } from './transport';

/** Plays passages that are no candidates, in a loop, and gives back what was heard before. */
export class PassagePlayer {
  private readonly ids = new Set<string>();
  /** The loop from before; undefined while nothing plays. */
  private loopBefore: Loop | null | undefined;

  constructor(
    private readonly link: Pick<LiveLink, 'send'>,
    private readonly audition: Pick<Audition, 'hearPassage'>,
    private readonly transport: Pick<Transport, 'store' | 'setLoop' | 'keepLoop'>,
  ) {}

  /** Makes a sound ready whose first frame stands at a frame of the track. */
  put(id: string, buffer: StereoBuffer, start: number): void {
    this.ids.add(id);
    this.link.send({ type: 'source', id, buffer });
    this.link.send({ type: 'place', id, place: { offset: -start, loop: null } });
  }

  /** Plays a sound that is ready. */
  hear(id: string): void {
    this.audition.hearPassage(id);
  }

  /** Loops a passage of the track, unless it is looped already. */
  loop(passage: Loop): void {
    const { loop } = this.transport.store.getState();
    if (this.loopBefore === undefined) this.loopBefore = loop;
    if (loop?.start !== passage.start || loop.end !== passage.end) this.transport.setLoop(passage);
  }

  /** Plays candidates again, as before. */
  end(): void {
    this.audition.hearPassage(null);
    for (const id of this.ids) this.link.send({ type: 'source', id, buffer: null });
    this.ids.clear();
    if (this.loopBefore !== undefined) this.transport.keepLoop(this.loopBefore);
    this.loopBefore = undefined;
  }
}
