import { codeOf, type ProblemCode } from '../contracts/problem';

/** Something the person asking can fix; its message is a sentence they may read. */
export class Problem extends Error {
  readonly code: ProblemCode;
  /** Seconds after which trying again makes sense. */
  readonly retryAfterSeconds: number | undefined;

  constructor(
    readonly status: number,
    message: string,
    { code = codeOf(status), retryAfterSeconds }: { code?: ProblemCode; retryAfterSeconds?: number } = {},
  ) {
    super(message);
    this.code = code;
    this.retryAfterSeconds = retryAfterSeconds;
  }
}

/** The answer for what does not exist, or belongs to another account. */
export function notFound(what: string): Problem {
  return new Problem(404, `This ${what} does not exist, or belongs to another account.`);
}

/** The answer while the server's disk is full. */
export function diskFull(): Problem {
  return new Problem(507, 'The server is out of disk space. Nothing was lost; try again when there is room.');
}
