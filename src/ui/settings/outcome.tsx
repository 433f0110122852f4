'use client';

import Alert from '@mui/material/Alert';
import { useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';

/** What the last press of a form's button led to. */
function Outcome({ problem, done }: { problem: string | null; done: string | null }) {
  if (problem) return <Alert severity="error">{problem}</Alert>;
  return done ? <Alert severity="success">{done}</Alert> : null;
}

/** Runs what a button does, and says in words what came of it. */
export function useOutcome() {
  const [problem, setProblem] = useState<string | null>(null);
  const [done, setDone] = useState<string | null>(null);
  const attempt = async (work: () => Promise<unknown>, words: string) => {
    setProblem(null);
    setDone(null);
    try {
      await work();
      setDone(words);
      return true;
    } catch (error) {
      setProblem(sentenceOf(error));
      return false;
    }
  };
  return { outcome: <Outcome problem={problem} done={done} />, attempt };
}
