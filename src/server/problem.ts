/** Something the person asking can mend; its message is a sentence they may read. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

/** The answer for what is not there, or belongs to somebody else. */
export function notFound(what: string): Problem {
  return new Problem(404, `This ${what} does not exist, or belongs to another account.`);
}
