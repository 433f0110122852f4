/** Something the person asking can mend; its message is a sentence they may read. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
    /** Seconds after which trying again makes sense. */
    readonly retryAfterSeconds?: number,
  ) {
    super(message);
  }
}

/** The answer for what is not there, or belongs to somebody else. */
export function notFound(what: string): Problem {
  return new Problem(404, `This ${what} does not exist, or belongs to another account.`);
}

const NO_ROOM = /ENOSPC|EDQUOT|No space left on device|Disk quota exceeded|53100/i;

/** Whether an error says that a disk is full: of this process, of a decoder, or of the database. */
export function isDiskFull(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  if (error instanceof Problem && error.status === 507) return true;
  return NO_ROOM.test(`${(error as { code?: string }).code ?? ''} ${error.message}`) || isDiskFull(error.cause);
}

/** The answer while the server's disk is full. */
export function diskFull(): Problem {
  return new Problem(507, 'The server is out of disk space. Nothing was lost; try again when there is room.');
}
