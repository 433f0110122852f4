import type { NewListenerNote } from '../../contracts/listening';
import { keepText } from '../kit/storage';
import { ask, AskError } from './ask';
import { pathOf } from './streams';

/** Notes that wait for a connection, at most. */
const MOST_WAITING = 50;
const keyOf = (token: string) => `copper-lane-outbox-${token}`;

/** Notes that were written without a connection, in their order. */
export function waitingNotes(token: string): NewListenerNote[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(keyOf(token)) ?? '[]');
    return Array.isArray(kept) ? (kept as NewListenerNote[]) : [];
  } catch {
    return [];
  }
}

function keep(token: string, notes: readonly NewListenerNote[]): void {
  if (!keepText(keyOf(token), JSON.stringify(notes)))
    throw new Error('This device has no room to keep the note. Stay on this page and send it when you are connected.');
}

/** Sends a note; without a connection it is kept on the device. Throws with a sentence when the server refuses it. */
export async function sendNote(token: string, note: NewListenerNote): Promise<void> {
  try {
    await ask(`${pathOf(token)}/notes`, 'POST', note);
  } catch (error) {
    if (!(error instanceof AskError) || error.status !== 0) throw error;
    const waiting = waitingNotes(token);
    if (waiting.length >= MOST_WAITING) throw error;
    keep(token, [...waiting, note]);
  }
}

/** Sends what waits, in order, until something has to wait. What the server refuses for good does not come back. */
export async function sendWaiting(token: string): Promise<void> {
  for (let waiting = waitingNotes(token); waiting.length > 0; waiting = waitingNotes(token)) {
    try {
      await ask(`${pathOf(token)}/notes`, 'POST', waiting[0]);
    } catch (error) {
      if (error instanceof AskError && error.passing) return;
    }
    keep(token, waitingNotes(token).slice(1));
  }
}
