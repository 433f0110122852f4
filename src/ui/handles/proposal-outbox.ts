import type { NewProposal } from '../../contracts/proposal';
import { keepText } from '../kit/storage';
import { ask, AskError } from '../listening/ask';

/** Proposals that wait to be sent, by the address that they go to. */
const PREFIX = 'copper-lane-proposal-';
const keyOf = (path: string) => `${PREFIX}${path}`;

/** The proposal that waits on this device; null for none. A newer one takes its place. */
export function waitingProposal(path: string): NewProposal | null {
  try {
    return JSON.parse(localStorage.getItem(keyOf(path)) ?? 'null') as NewProposal | null;
  } catch {
    return null;
  }
}

/** Sends a proposal; without a connection it is kept on the device. Gives whether it has arrived; throws with a sentence when it is refused. */
export async function sendProposal(path: string, proposal: NewProposal): Promise<boolean> {
  if (keepText(keyOf(path), JSON.stringify(proposal))) return sendWaitingProposal(path);
  // What this device can't keep goes out now, or is refused with the reason.
  await ask(path, 'POST', proposal);
  return true;
}

/** Sends what waits. Gives whether nothing waits any longer; throws with a sentence when it is refused. */
export async function sendWaitingProposal(path: string): Promise<boolean> {
  const proposal = waitingProposal(path);
  if (!proposal) return true;
  try {
    await ask(path, 'POST', proposal);
  } catch (error) {
    if (error instanceof AskError && error.passing) return false;
    localStorage.removeItem(keyOf(path));
    throw error;
  }
  // Unless a newer one was written while this one was on its way.
  if (waitingProposal(path)?.madeAt === proposal.madeAt) localStorage.removeItem(keyOf(path));
  return true;
}

/** Sends all that wait on this device, whichever page they were made on. Throws with the sentence of the first that is refused. */
export async function sendWaitingProposals(): Promise<void> {
  const keys = Object.keys(localStorage).filter((key) => key.startsWith(PREFIX));
  const sent = await Promise.allSettled(keys.map((key) => sendWaitingProposal(key.slice(PREFIX.length))));
  const refused = sent.find(({ status }) => status === 'rejected');
  if (refused) throw (refused as PromiseRejectedResult).reason;
}
