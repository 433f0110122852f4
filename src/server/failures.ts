import knex from 'knex';
import { Problem } from './problem';

/** A program or thread said that a disk is full. */
export class DiskFull extends Error {}

/** Codes of Node and PostgreSQL (SQLSTATE) by what they mean. */
const FULL = new Set(['ENOSPC', 'EDQUOT', '53100']);
const LOST = new Set([
  ...['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND', 'ENOENT'],
  // Connection exceptions; shut down by an administrator, crashed, starting up.
  ...['08000', '08001', '08003', '08004', '08006', '57P01', '57P02', '57P03'],
]);
const STOPPED = '57014';
/** What PostgreSQL's driver says without a code when a connection ends under a query. */
const ENDED = new Set([
  'Connection terminated unexpectedly',
  'Connection terminated',
  'Client has encountered a connection error and is not queryable',
]);

/** The code of an error; empty where it has none. */
function codeOf(error: Error): string {
  const { code } = error as { code?: unknown };
  return typeof code === 'string' ? code : '';
}

/** Whether an error says that a disk is full: of this process, of a program, or of the database. */
export function isDiskFull(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  if (error instanceof DiskFull || FULL.has(codeOf(error))) return true;
  return (error instanceof Problem && error.code === 'diskFull') || isDiskFull(error.cause);
}

/** Whether an error of a query says that the database can't be reached. */
export function isDatabaseLost(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  if (error instanceof knex.KnexTimeoutError || LOST.has(codeOf(error)) || ENDED.has(error.message)) return true;
  return error instanceof AggregateError ? error.errors.some(isDatabaseLost) : isDatabaseLost(error.cause);
}

/** Whether the database stopped a statement because it took too long. */
export function isStatementStopped(error: unknown): boolean {
  return error instanceof Error && codeOf(error) === STOPPED;
}

/** Whether the database refused a value because another row has it (SQLSTATE 23505, unique_violation). */
export function isTaken(error: unknown): boolean {
  return error instanceof Error && codeOf(error) === '23505';
}
