import pino, { type Logger } from 'pino';
import { logLevel } from './config';

let logger: Logger | undefined;

/** Structured log on standard output, one JSON object a line. */
export function log(): Logger {
  logger ??= pino({
    // Commands that need no other settings log as well.
    level: logLevel.catch('info').parse(process.env.COPPER_LOG_LEVEL),
    base: { service: 'copper-lane' },
    redact: ['password', '*.password'],
  });
  return logger;
}
