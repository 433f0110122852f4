import { useEffect, useState } from 'react';
import { sentenceOf } from '../../../core/sentence-of';
import type { Destination } from '../../../core/deliver/destination';
import type { Draft } from '../../../core/draft/first-draft/draft';
import type { DraftWishes } from '../../../core/draft/first-draft/request';
import type { Edges } from '../../../core/sequence/edges';
import type { DraftReference } from '../../../core/draft/first-draft/step';
import { EMPTY_LANE } from '../../../core/lane/schema';
import type { SolverRunner } from '../../../engine/measure/solver-runner';
import { useEditor, useTrack } from '../context';

/** A draft as it is now; the one before is shown until the next is there. */
export interface DraftState {
  draft: Draft | null;
  busy: boolean;
  problem: string | null;
}

/** What solves drafts of the open mix, while a component is there. */
export function useSolver(): { runner: SolverRunner | null; problem: string | null } {
  const editor = useEditor();
  // While the mix is loading there is nothing to ask; then it is asked again.
  const ready = useTrack((state) => state.audio !== null);
  const [state, setState] = useState<{ runner: SolverRunner | null; problem: string | null }>({
    ...{ runner: null, problem: null },
  });
  useEffect(() => {
    let closed = false;
    let own: SolverRunner | null = null;
    editor.solver(EMPTY_LANE).then(
      (runner) => {
        own = runner;
        if (closed) runner.close();
        else setState({ runner, problem: null });
      },
      (error: Error) => closed || setState({ runner: null, problem: sentenceOf(error) }),
    );
    return () => {
      closed = true;
      own?.close();
    };
  }, [editor, ready]);
  return state;
}

/** Drafts again whenever what is wanted changes. */
export function useDraft(
  runner: SolverRunner | null,
  destination: Destination,
  wishes: DraftWishes,
  reference: DraftReference | null,
  edges: Edges | undefined,
): DraftState {
  const [state, setState] = useState<{ of: unknown; draft: Draft | null; problem: string | null }>({
    ...{ of: null, draft: null, problem: null },
  });
  const key = JSON.stringify([destination, wishes, reference, edges]);
  useEffect(() => {
    if (!runner) return;
    let left = false;
    runner.draft(destination, wishes, reference, edges).then(
      (draft) => left || !draft || setState({ of: key, draft, problem: null }),
      (error: Error) => left || setState(({ draft }) => ({ of: key, draft, problem: sentenceOf(error) })),
    );
    return () => {
      left = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key says what is wanted
  }, [runner, key]);
  return { draft: state.draft, busy: state.of !== key, problem: state.problem };
}
