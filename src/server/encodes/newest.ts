import { Problem } from '../problem';

/** Lets only the newest request of each account go on, and no more than so many altogether. */
export class Newest {
  private readonly underWay = new Map<string, AbortController>();

  constructor(private readonly most: number) {}

  /**
   * Begins a request, which aborts when a newer one of the account begins. Throws a Problem (503) when others have all the
   * places.
   */
  begin(accountId: string): AbortController {
    this.underWay.get(accountId)?.abort();
    if (!this.underWay.has(accountId) && this.underWay.size >= this.most)
      throw new Problem(503, 'The server is encoding other passages. The figures come with the next change.');
    const controller = new AbortController();
    this.underWay.set(accountId, controller);
    return controller;
  }

  /** Ends a request; a newer one of the account stays. */
  end(accountId: string, controller: AbortController): void {
    if (this.underWay.get(accountId) === controller) this.underWay.delete(accountId);
  }
}
