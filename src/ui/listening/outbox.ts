import type { Approve, NewListenerNote } from '../../contracts/listening';
import { keepText } from '../kit/storage';
import { ask, AskError } from './ask';
import { pathOf } from './streams';

/** What a listener says of what is heard: a note, or an approval. */
export type Answer = NewListenerNote | Approve;

/** Answers that wait for a connection, at most. */
const MOST_WAITING = 50;
const keyOf = (token: string) => `copper-lane-outbox-${token}`;

/** Answers that were given without a connection, in their order. */
export function waitingAnswers(token: string): Answer[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(keyOf(token)) ?? '[]');
    return Array.isArray(kept) ? (kept as Answer[]) : [];
  } catch {
    return [];
  }
}

/** The tracks that are approved, given those that the server knows of and what waits. */
export function approvedWith(approved: readonly string[], waiting: readonly Answer[]): string[] {
  const all = new Set(approved);
  for (const answer of waiting) {
    if (!('trackIds' in answer)) continue;
    for (const id of answer.trackIds)
      if (answer.approved) all.add(id);
      else all.delete(id);
  }
  return [...all];
}

function keep(token: string, answers: readonly Answer[]): void {
  if (!keepText(keyOf(token), JSON.stringify(answers)))
    throw new Error('This device has no room to keep this. Stay on this page and send it when you are connected.');
}

function send(token: string, answer: Answer): Promise<unknown> {
  return 'trackIds' in answer
    ? ask(`${pathOf(token)}/approvals`, 'PUT', answer)
    : ask(`${pathOf(token)}/notes`, 'POST', answer);
}

/** Sends an answer; without a connection it is kept on the device. Throws with a sentence when the server refuses it. */
export async function sendAnswer(token: string, answer: Answer): Promise<void> {
  try {
    await send(token, answer);
  } catch (error) {
    if (!(error instanceof AskError) || error.status !== 0) throw error;
    const waiting = waitingAnswers(token);
    if (waiting.length >= MOST_WAITING) throw error;
    keep(token, [...waiting, answer]);
  }
}

/** Sends what waits, in order, until something has to wait. What the server refuses for good does not come back. */
export async function sendWaiting(token: string): Promise<void> {
  for (let waiting = waitingAnswers(token); waiting.length > 0; waiting = waitingAnswers(token)) {
    try {
      await send(token, waiting[0]);
    } catch (error) {
      if (error instanceof AskError && error.passing) return;
    }
    keep(token, waitingAnswers(token).slice(1));
  }
}
