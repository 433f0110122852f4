/** Answers a message that a worker does not know: one of a page of another edition, for instance. */
export function notUnderstood(message: unknown): { id: number; problem: string } {
  const id = (message as { id?: unknown } | null)?.id;
  const problem = 'This page and its workers are of two editions. Reload the page.';
  return { id: typeof id === 'number' ? id : 0, problem };
}
