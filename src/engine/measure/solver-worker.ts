import { sentenceOf } from '../../core/sentence-of';
import type { Destination } from '../../core/deliver/destination';
import type { Handhold, LevelReading, Meeting } from '../../core/deliver/meet';
import type { Draft } from '../../core/draft/first-draft/draft';
import type { DraftWishes } from '../../core/draft/first-draft/request';
import type { DraftReference } from '../../core/draft/first-draft/step';
import { Kernels } from '../../core/kernels/host';
import type { Edges } from '../../core/sequence/edges';
import type { Lane } from '../../core/lane/schema';
import type { IntakeReport } from '../../core/measure/intake-report';
import type { ImpulseResponse } from '../../core/stages/definition';
import { breathe } from './breathe';
import { Drafting } from './drafting';
import type { StereoBuffer } from '../sources/places';
import type { Audio } from './measurement';
import { Meetings, type Effortless, type Proposal } from './meetings';
import { notUnderstood } from './not-understood';
import { renderPassage } from './render-passage';

/** What a page asks of the worker that finds settings. */
export type SolverOrder = { id: number } & (
  | { what: 'open'; audio: Audio; report: IntakeReport; impulses: Record<string, ImpulseResponse> }
  | {
      what: 'propose';
      lane: Lane;
      destination: Destination;
      whole: LevelReading & { rangeLu: number };
      maxDbtp: number;
    }
  | { what: 'effortless'; lane: Lane; hold: Handhold; whole: LevelReading }
  | { what: 'meet'; lane: Lane; destination: Destination; hold: Handhold; maxDbtp: number }
  | { what: 'passage'; lane: Lane }
  | {
      what: 'draft';
      destination: Destination;
      wishes: DraftWishes;
      reference: DraftReference | null;
      edges: Edges | undefined;
    }
);

export type SolverReply = { id: number } & (
  | { opened: true }
  | { proposals: Proposal[] }
  | { effortless: Effortless | null }
  | { meeting: Meeting }
  | { draft: Draft }
  | { passage: StereoBuffer }
  | { overtaken: true }
  | { problem: string }
);

/** A newer order has come in. */
class Overtaken extends Error {}

let solvers: { meetings: Meetings; drafting: Drafting; passage: (lane: Lane) => StereoBuffer } | null = null;
let newest = 0;
let running = 0;
let queue = Promise.resolve();

async function turn(): Promise<void> {
  await breathe();
  if (running !== newest) throw new Overtaken();
}

async function answer(order: SolverOrder): Promise<SolverReply> {
  const { id } = order;
  if (order.what === 'open') {
    const { audio, report, impulses } = order;
    const kernels = new Kernels();
    const named = new Map(Object.entries(impulses));
    solvers = {
      meetings: new Meetings(audio, report.loudest, named, turn),
      drafting: new Drafting(audio, report, turn),
      passage: (lane) => renderPassage(audio, report.loudest, lane, named, kernels),
    };
    return { id, opened: true };
  }
  if (!solvers) return { id, problem: 'The mix is still loading. Try again in a moment.' };
  if (order.what === 'propose') {
    const { lane, destination, whole, maxDbtp } = order;
    return { id, proposals: await solvers.meetings.propose(lane, destination, whole, maxDbtp) };
  }
  if (order.what === 'effortless')
    return { id, effortless: await solvers.meetings.effortless(order.lane, order.hold, order.whole) };
  if (order.what === 'passage') return { id, passage: solvers.passage(order.lane) };
  const { destination } = order;
  if (order.what === 'draft')
    return { id, draft: await solvers.drafting.draft(destination, order.wishes, order.reference, order.edges) };
  if (order.what !== 'meet') return notUnderstood(order);
  return { id, meeting: await solvers.meetings.meet(order.lane, destination, order.hold, order.maxDbtp) };
}

async function settle(order: SolverOrder): Promise<void> {
  const { id } = order;
  running = id;
  const reply = await answer(order).catch((error: unknown): SolverReply =>
    error instanceof Overtaken ? { id, overtaken: true } : { id, problem: sentenceOf(error) },
  );
  self.postMessage(reply);
}

/** Finds settings outside the page's own thread, one order after another; a newer one ends the one under way. */
self.onmessage = ({ data }: MessageEvent<SolverOrder>) => {
  newest = data.id;
  queue = queue.then(() => settle(data));
};
