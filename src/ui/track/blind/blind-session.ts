import { createStore } from 'zustand/vanilla';
import { sentenceOf } from '../../../core/sentence-of';
import {
  type BlindTest,
  blindTestListSchema,
  blindTestSchema,
  type GivenBlindAnswer,
  type NewBlindTest,
} from '../../../contracts/blind-test';
import { LETTERS } from '../../../core/blind/result';
import type { Loop } from '../../../engine/live/protocol';
import type { LevelRunner } from '../../../engine/measure/level-runner';
import { api, bytes, send } from '../../api';
import type { PassagePlayer } from '../passage-player';
import { equallyLoud, type HeardCandidate, separated } from './blind-sounds';

/** What is to be compared, and how often. */
export interface BlindPlan extends Pick<NewBlindTest, 'kind' | 'trials'> {
  /** Of grades the first is the reference. */
  candidates: readonly HeardCandidate[];
  passage: Loop;
  /** Hz */
  sampleRate: number;
}

export interface BlindState {
  /** Whether tests are set up and looked at. */
  open: boolean;
  /** The tests of the track, the newest first; null until they are known. */
  tests: readonly BlindTest[] | null;
  /** What is being done before one can listen, in words. */
  busy: string | null;
  problem: string | null;
  /** The test that is taken, or was just finished. */
  taken: BlindTest | null;
  /** The letter that is heard. */
  letter: string;
  /** Letters that were heard in this trial. */
  heardLetters: readonly string[];
}

/** The letters of a test: those whose sounds are named, and those whose are not. */
export function lettersOf({ kind, names }: Pick<BlindTest, 'kind' | 'names'>): { named: string[]; unnamed: string[] } {
  if (kind === 'tell') return { named: ['A', 'B'], unnamed: ['X'] };
  return { named: ['R'], unnamed: [...LETTERS.slice(0, names.length)] };
}

const sourceId = (letter: string) => `blind-${letter}`;

/** Blind tests of the open track: only the server knows which letter is which. */
export class BlindSession {
  readonly store = createStore<BlindState>(() => ({
    ...{ open: false, tests: null, busy: null, problem: null, taken: null, letter: '', heardLetters: [] },
  }));
  constructor(
    private readonly trackId: string,
    private readonly player: PassagePlayer,
  ) {}

  /** Opens or closes the place where tests are set up and looked at. */
  show(open: boolean): void {
    this.store.setState({ open, problem: null });
    if (open) void this.refresh();
  }

  private async refresh(): Promise<void> {
    await this.attempt(async () => {
      const tests = await api(blindTestListSchema, `/api/tracks/${this.trackId}/blind-tests`);
      this.store.setState({ tests: tests.filter(({ status }) => status !== 'gathering') });
    });
  }

  /** Sends the sounds of some candidates at equal loudness, and begins with the first trial. */
  async begin({ candidates, passage, sampleRate, kind, trials }: BlindPlan, levels: LevelRunner): Promise<void> {
    await this.attempt(async () => {
      const asked: NewBlindTest = {
        ...{ kind, trials, names: candidates.map(({ name }) => name), sampleRate },
        ...{ startSeconds: passage.start / sampleRate, frames: passage.end - passage.start },
      };
      this.store.setState({ busy: 'Matching loudness' });
      const { id } = await api(blindTestSchema, `/api/tracks/${this.trackId}/blind-tests`, {
        ...{ method: 'POST', body: asked },
      });
      try {
        const sounds = await equallyLoud(candidates, passage, sampleRate, levels);
        for (const [position, body] of sounds.entries()) {
          this.store.setState({ busy: `Sending ${candidates[position].name}` });
          await send(`/api/blind-tests/${id}/sounds?position=${position}`, { method: 'PUT', body });
        }
        await this.take(await api(blindTestSchema, `/api/blind-tests/${id}/begin`, { method: 'POST' }));
      } catch (error) {
        // What never began is of no use to anybody.
        await send(`/api/blind-tests/${id}`, { method: 'DELETE' }).catch(() => {});
        throw error;
      }
    });
  }

  /** Says why a test can't begin. */
  refuse(problem: string): void {
    this.store.setState({ problem });
  }

  /** Goes on with a test that was left. */
  async goOn(test: BlindTest): Promise<void> {
    await this.attempt(() => this.take(test));
  }

  /** Chooses the letter whose sound is played. */
  listen(letter: string): void {
    if (this.store.getState().taken?.status !== 'running') return;
    this.player.hear(sourceId(letter));
    this.store.setState({ letter });
  }

  /** The chosen letter sounds: only now it was heard. */
  sounds(): void {
    const { letter, heardLetters } = this.store.getState();
    if (!heardLetters.includes(letter)) this.store.setState({ heardLetters: [...heardLetters, letter] });
  }

  /** Whether the trial that is due can be answered: everything unnamed was heard. */
  canAnswer(): boolean {
    const { taken, heardLetters } = this.store.getState();
    return taken?.status === 'running' && lettersOf(taken).unnamed.every((letter) => heardLetters.includes(letter));
  }

  /** Answers the trial that is due. */
  async answer(answer: GivenBlindAnswer['answer']): Promise<void> {
    const { taken, busy } = this.store.getState();
    if (!taken || busy || !this.canAnswer()) return;
    await this.attempt(async () => {
      this.store.setState({ busy: 'Saving the answer' });
      const body: GivenBlindAnswer = { trial: taken.answered, answer };
      const next = await api(blindTestSchema, `/api/blind-tests/${taken.id}/answers`, { method: 'POST', body });
      if (next.status === 'running') await this.fetchTrial(next, lettersOf(next).unnamed);
      else this.player.end();
      this.store.setState({ taken: next, heardLetters: [] });
      if (next.status === 'running') this.listen(lettersOf(next).named[0]);
    });
  }

  /** Leaves the test: one that is not finished can be gone on with. */
  leave(): void {
    const { taken } = this.store.getState();
    if (!taken) return;
    this.player.end();
    this.store.setState({ taken: null, open: true });
    void this.refresh();
  }

  async remove(id: string): Promise<void> {
    await this.attempt(() => send(`/api/blind-tests/${id}`, { method: 'DELETE' }));
    await this.refresh();
  }

  /** Fetches the sounds of the trial that is due and plays the passage in a loop. */
  private async take(test: BlindTest): Promise<void> {
    const { named, unnamed } = lettersOf(test);
    await this.fetchTrial(test, [...named, ...unnamed]);
    const start = Math.round(test.startSeconds * test.sampleRate);
    this.store.setState({ taken: test, open: false, heardLetters: [] });
    this.listen(named[0]);
    this.player.loop({ start, end: start + test.frames });
  }

  private async fetchTrial({ id, answered, startSeconds, sampleRate }: BlindTest, letters: string[]): Promise<void> {
    this.store.setState({ busy: 'Fetching the sounds' });
    const start = Math.round(startSeconds * sampleRate);
    for (const letter of letters) {
      const sound = await bytes(`/api/blind-tests/${id}/sounds?trial=${answered}&letter=${letter}`);
      if (!sound) throw new Error('A sound of this test is missing. Delete the test and start another.');
      this.player.put(sourceId(letter), separated(sound), start);
    }
  }

  private async attempt(work: () => Promise<unknown>): Promise<void> {
    this.store.setState({ problem: null });
    await work()
      .catch((error: unknown) => this.store.setState({ problem: sentenceOf(error) }))
      .finally(() => this.store.setState({ busy: null }));
  }
}
