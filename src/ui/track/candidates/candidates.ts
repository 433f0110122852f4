import { createStore } from 'zustand/vanilla';
import { sentenceOf } from '../../../core/sentence-of';
import { FIRST_CANDIDATES, MOST_CANDIDATES, type Candidate } from '../../../contracts/candidate';
import type { Lane } from '../../../core/lane/schema';
import { laneKey } from '../../../engine/measure/queue';
import type { SourceLevel } from '../../../engine/sources/level-match';
import type { StereoBuffer } from '../../../engine/sources/places';
import { SAME_PLACE, type SourcePlace } from '../../../engine/sources/source-place';
import type { LiveLink } from '../live-link';
import { isUnwanted } from '../measurements';
import type { OnItsWay } from '../measure-lane';
import { fetchSource, renderLane, type HeardSource, type Workshop } from './candidate-source';
import { referencePlace } from './reference-place';
import { candidateId, candidateTitle, type CandidateTitle, type Known } from './candidate-title';

type ReferenceCandidate = Extract<Candidate, { kind: 'reference' }>;

/** A candidate in the listening bar. */
export interface CandidateEntry extends CandidateTitle {
  id: string;
  what: Candidate;
  /** Share of it that is rendered or fetched; null when it can be heard. */
  share: number | null;
  /** Why it can't be heard, as a sentence. */
  problem: string | null;
  /** What was measured of it; null while it is not, and for the mix in use and the lane being edited. */
  level: SourceLevel | null;
}

export interface CandidatesState {
  entries: readonly CandidateEntry[];
}

/** A source on its way to be heard, and the one that is heard meanwhile. */
interface Working {
  /** What decides its sound. */
  key: string;
  abort: AbortController;
  heard: HeardSource | null;
}

/** What was heard may still fade out: its memory is used again only this much later, in ms. */
const FADED_MS = 200;

/** The mix in use and the lane being edited are always there. */
function isBuiltIn(what: Candidate): boolean {
  return what.kind === 'edited' || (what.kind === 'mix' && what.mixId === null);
}

/** What can be heard of a track: candidates, in order, each rendered or fetched in the background. */
export class Candidates {
  readonly store;
  private workshop: Workshop | null = null;
  private readonly working = new Map<string, Working>();

  /** `save` keeps the list with the track; `report` tells what went wrong; `here` is the frame where one is. */
  constructor(
    private readonly link: LiveLink,
    private known: Known,
    private readonly save: (list: Candidate[]) => Promise<void>,
    private readonly report: (problem: string) => void,
    private readonly here: () => number = () => 0,
  ) {
    const list = known.details.candidates ?? FIRST_CANDIDATES;
    this.store = createStore<CandidatesState>(() => ({ entries: list.flatMap((what) => this.entryOf(what) ?? []) }));
  }

  /** Begins to render and fetch. */
  open(workshop: Workshop): void {
    this.workshop = workshop;
    this.prepare();
  }

  /** Sends what can be heard to a worklet that has just begun. */
  begin(): void {
    for (const [id, { heard }] of this.working) {
      if (!heard) continue;
      this.link.send({ type: 'source', id, buffer: heard.buffer });
      this.sendPlace(id);
    }
  }

  /** A candidate by its id. */
  entry(id: string): CandidateEntry | undefined {
    return this.store.getState().entries.find((entry) => entry.id === id);
  }

  /** What a candidate plays from; null for the mix in use and the lane being edited, and while it is not there. */
  bufferOf(id: string): StereoBuffer | null {
    return this.working.get(id)?.heard?.buffer ?? null;
  }

  /** Offers another candidate. False when there are as many as there can be. */
  add(what: Candidate): boolean {
    const { entries } = this.store.getState();
    if (this.entry(candidateId(what))) return true;
    if (entries.length >= MOST_CANDIDATES) {
      this.report(`There are keys for ${MOST_CANDIDATES} candidates. Remove one to add another.`);
      return false;
    }
    const entry = this.entryOf(what);
    if (entry) this.change([...entries, entry]);
    this.prepare();
    return true;
  }

  remove(id: string): void {
    this.change(this.store.getState().entries.filter((entry) => entry.id !== id));
    this.drop(id);
  }

  /** Changes where a reference stands. */
  placeReference(id: string, change: Partial<Pick<ReferenceCandidate, 'place' | 'loop'>>): void {
    this.change(
      this.store
        .getState()
        .entries.map((entry) =>
          entry.id === id && entry.what.kind === 'reference' ? { ...entry, what: { ...entry.what, ...change } } : entry,
        ),
    );
    this.sendPlace(id);
  }

  /** Where a candidate stands when one is at a frame of the track. */
  placeAt(id: string, here: number): SourcePlace {
    const what = this.entry(id)?.what;
    const { details } = this.known;
    if (what?.kind !== 'reference' || !this.workshop || !details.mix?.report) return SAME_PLACE;
    const report = details.references.find((each) => each.id === what.referenceId)?.report;
    if (!report) return SAME_PLACE;
    const { frames, loudest } = details.mix.report;
    return referencePlace(what, report, { frames, loudest, sampleRate: this.workshop.sampleRate, here });
  }

  /** Sends where a reference stands, from where one is in the track. */
  sendPlace(id: string): void {
    if (this.entry(id)?.what.kind === 'reference')
      this.link.send({ type: 'place', id, place: this.placeAt(id, this.here()) });
  }

  /** Moves a candidate by some places. */
  move(id: string, by: number): void {
    const entries = [...this.store.getState().entries];
    const from = entries.findIndex((entry) => entry.id === id);
    const [entry] = entries.splice(from, 1);
    entries.splice(Math.max(0, from + by), 0, entry);
    this.change(entries);
  }

  /** The track or the lane has changed: names follow, what is gone goes, and what sounds different is rendered again. */
  follow(known: Known): void {
    this.known = known;
    const { entries } = this.store.getState();
    const followed = entries.flatMap((entry) => {
      const title = candidateTitle(entry.what, known);
      return title ? [{ ...entry, ...title }] : [];
    });
    for (const { id } of entries) if (!followed.some((entry) => entry.id === id)) this.drop(id);
    this.store.setState({ entries: followed });
    this.prepare();
  }

  /** Another version was opened: where it was a candidate, the one that was left takes its place. */
  versionOpened(opened: string, left: string): void {
    const id = candidateId({ kind: 'version', versionId: opened });
    if (!this.entry(id)) return;
    const instead = this.entryOf({ kind: 'version', versionId: left });
    this.drop(id);
    this.change(this.store.getState().entries.flatMap((entry) => (entry.id === id ? (instead ?? []) : [entry])));
    this.prepare();
  }

  close(): void {
    for (const { abort } of this.working.values()) abort.abort();
    this.workshop?.levels.close();
  }

  private entryOf(what: Candidate): CandidateEntry | null {
    const title = candidateTitle(what, this.known);
    const share = isBuiltIn(what) ? null : 0;
    return title && { id: candidateId(what), what, ...title, share, problem: null, level: null };
  }

  private change(entries: CandidateEntry[]): void {
    this.store.setState({ entries });
    this.save(entries.map(({ what }) => what)).catch((error: unknown) => this.report(sentenceOf(error)));
  }

  private set(id: string, changes: Partial<CandidateEntry>): void {
    const { entries } = this.store.getState();
    this.store.setState({ entries: entries.map((entry) => (entry.id === id ? { ...entry, ...changes } : entry)) });
  }

  /** Has everything rendered or fetched that is not, or that sounds different from what was. */
  private prepare(): void {
    const { workshop } = this;
    if (!workshop) return;
    for (const { id, what } of this.store.getState().entries) {
      const lane = this.laneOf(what);
      const key = lane ? laneKey(lane) : id;
      const before = this.working.get(id);
      if (isBuiltIn(what) || before?.key === key) continue;
      before?.abort.abort();
      const working: Working = { key, abort: new AbortController(), heard: before?.heard ?? null };
      this.working.set(id, working);
      this.set(id, { problem: null, share: working.heard ? null : 0 });
      const { signal } = working.abort;
      const way: OnItsWay = {
        signal,
        onShare: (share) => !working.heard && !signal.aborted && this.set(id, { share }),
      };
      const source = lane ? renderLane(id, lane, workshop, way) : this.fetch(what, workshop, way);
      source.then(
        (heard) => this.arrived(id, working, heard),
        (error: Error) => this.failed(id, working, error),
      );
    }
  }

  /** The lane that a candidate is rendered of; null for one that is fetched. */
  private laneOf(what: Candidate): Lane | null {
    const { lane, details } = this.known;
    if (what.kind === 'without') return { ...lane, stages: lane.stages.filter(({ id }) => id !== what.stage) };
    if (what.kind !== 'version') return null;
    return details.versions.find(({ id }) => id === what.versionId)?.lane ?? null;
  }

  private fetch(what: Candidate, workshop: Workshop, way: OnItsWay): Promise<HeardSource> {
    if (what.kind === 'edited' || what.kind === 'without' || what.kind === 'version')
      return Promise.reject(new Error('This version is no longer there. Remove the candidate.'));
    return fetchSource(what, this.known.details, workshop, way);
  }

  private arrived(id: string, working: Working, heard: HeardSource): void {
    if (working.abort.signal.aborted) return heard.release();
    this.retire(working.heard);
    working.heard = heard;
    this.link.send({ type: 'source', id, buffer: heard.buffer });
    this.sendPlace(id);
    this.set(id, { share: null, problem: null, level: heard.level });
  }

  private failed(id: string, working: Working, error: Error): void {
    if (working.abort.signal.aborted || isUnwanted(error)) return;
    this.set(id, { share: null, problem: sentenceOf(error) });
  }

  private drop(id: string): void {
    const working = this.working.get(id);
    if (!working) return;
    this.working.delete(id);
    working.abort.abort();
    this.link.send({ type: 'source', id, buffer: null });
    this.retire(working.heard);
  }

  private retire(heard: HeardSource | null): void {
    if (heard) setTimeout(() => heard.release(), FADED_MS);
  }
}
