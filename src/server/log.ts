import pino, { type Logger } from 'pino';
import { getConfig } from './config';

let logger: Logger | undefined;

/** Structured log on standard output, one JSON object a line. */
export function log(): Logger {
  logger ??= pino({
    level: getConfig().logLevel,
    base: { service: 'copper-lane' },
    redact: ['password', '*.password'],
  });
  return logger;
}
