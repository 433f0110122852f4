import { useEffect, useRef, useState } from 'react';
import { sentenceOf } from '../../../core/sentence-of';
import type { Lane } from '../../../core/lane/schema';
import type { SolverRunner } from '../../../engine/measure/solver-runner';
import { useEditor, useTransport } from '../context';

const heardId = (key: string) => `house-${key}`;

/** Plays the loudest passage through lanes, all equally loud, in a loop; what was heard before comes back at the end. */
export function usePassages(runner: SolverRunner | null) {
  const editor = useEditor();
  const playing = useTransport((state) => state.playing);
  const made = useRef(new Set<string>());
  const [heard, setHeard] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => () => editor.passages.end(), [editor]);

  /** Plays what is known under a key, which says what sounds. */
  const hear = async (key: string, lane: Lane) => {
    const loudest = editor.track.details.mix?.report?.loudest;
    if (!runner || !loudest) return;
    setHeard(key);
    try {
      if (!made.current.has(key)) {
        const passage = await runner.passage(lane);
        if (!passage) return;
        made.current.add(key);
        editor.passages.put(heardId(key), passage, loudest.start);
      }
      editor.passages.loop(loudest);
      editor.passages.hear(heardId(key));
      if (!playing) editor.transport.togglePlay();
      setProblem(null);
    } catch (error) {
      setProblem(sentenceOf(error));
      setHeard(null);
    }
  };
  return { heard, hear, problem };
}
