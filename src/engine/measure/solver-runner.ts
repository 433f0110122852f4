import type { Destination } from '../../core/deliver/destination';
import type { Handhold, LevelReading, Meeting } from '../../core/deliver/meet';
import type { Draft } from '../../core/draft/first-draft/draft';
import type { DraftWishes } from '../../core/draft/first-draft/request';
import type { Edges } from '../../core/sequence/edges';
import type { DraftReference } from '../../core/draft/first-draft/step';
import type { Lane } from '../../core/lane/schema';
import type { IntakeReport } from '../../core/measure/intake-report';
import type { ImpulseResponse } from '../../core/stages/definition';
import type { Effortless, Proposal } from './meetings';
import { AskedWorker } from './asked-worker';
import type { Audio } from './measurement';
import type { StereoBuffer } from '../sources/places';
import type { SolverOrder, SolverReply } from './solver-worker';

/** Finds settings for one mix on a worker of the page: how a lane meets a destination, or a lane from nothing. */
export class SolverRunner {
  private readonly worker = new AskedWorker<SolverOrder, SolverReply>(
    () => new Worker(new URL('./solver-worker.ts', import.meta.url), { type: 'module' }),
    'The solver stopped. Reload the page to try again.',
  );

  constructor(audio: Audio, report: IntakeReport, impulses: Record<string, ImpulseResponse>) {
    void this.worker.ask({ what: 'open', audio, report, impulses }).catch(() => {});
  }

  /** What each handhold would come to within a ceiling in dBTP, the best first. `whole` is what the lane measures now. */
  async propose(
    lane: Lane,
    destination: Destination,
    whole: LevelReading & { rangeLu: number },
    maxDbtp: number,
  ): Promise<Proposal[]> {
    const reply = await this.ask({ what: 'propose', lane, destination, whole, maxDbtp });
    if (!reply || !('proposals' in reply)) throw new Error('There is no proposal.');
    return reply.proposals;
  }

  /** Up to where loudness costs little; null where it always costs, undefined when a newer order overtook this one. */
  async effortless(lane: Lane, hold: Handhold, whole: LevelReading): Promise<Effortless | null | undefined> {
    const reply = await this.ask({ what: 'effortless', lane, hold, whole });
    return reply && 'effortless' in reply ? reply.effortless : undefined;
  }

  /** Solves a handhold over the whole track, within a ceiling in dBTP. */
  async meet(lane: Lane, destination: Destination, hold: Handhold, maxDbtp: number): Promise<Meeting> {
    const reply = await this.ask({ what: 'meet', lane, destination, hold, maxDbtp });
    if (!reply || !('meeting' in reply)) throw new Error('There is no solution.');
    return reply.meeting;
  }

  /** Drafts a lane; null when a newer order overtook it. */
  async draft(
    destination: Destination,
    wishes: DraftWishes,
    reference: DraftReference | null,
    edges: Edges | undefined,
  ): Promise<Draft | null> {
    const reply = await this.ask({ what: 'draft', destination, wishes, reference, edges });
    return reply && 'draft' in reply ? reply.draft : null;
  }

  /** The loudest passage through a lane, at the loudness at which passages are compared; null when a newer order overtook it. */
  async passage(lane: Lane): Promise<StereoBuffer | null> {
    const reply = await this.ask({ what: 'passage', lane });
    return reply && 'passage' in reply ? reply.passage : null;
  }

  close(): void {
    this.worker.close();
  }

  private async ask(order: Parameters<typeof this.worker.ask>[0]): Promise<SolverReply | null> {
    const reply = await this.worker.ask(order);
    return 'overtaken' in reply ? null : reply;
  }
}
