import { readFileSync } from 'node:fs';
import path from 'node:path';
import { z } from 'zod';

const schema = z.object({
  DATABASE_URL: z
    .string()
    .startsWith(
      'postgres',
      'DATABASE_URL must be a PostgreSQL address such as postgres://copper@127.0.0.1:5433/copper_lane.',
    ),
  COPPER_DATA: z.string().min(1).default('data'),
  COPPER_SESSION_SECRET: z.string().min(32, 'COPPER_SESSION_SECRET must have at least 32 characters.').optional(),
  COPPER_LOG_LEVEL: z.enum(['fatal', 'error', 'warn', 'info', 'debug', 'trace', 'silent']).default('info'),
  COPPER_MAX_UPLOAD_MB: z.coerce.number().int().min(1).max(2048).default(2048),
  COPPER_SECURE_COOKIE: z.enum(['yes', 'no']).default('no'),
});

export interface Config {
  databaseUrl: string;
  /** Absolute folder of the audio store, temporary files and the session secret. */
  dataFolder: string;
  sessionSecret: string;
  logLevel: string;
  maxUploadBytes: number;
  secureCookie: boolean;
}

let config: Config | undefined;

function secretFrom(dataFolder: string): string {
  try {
    return readFileSync(path.join(dataFolder, 'session-secret'), 'utf8').trim();
  } catch {
    throw new Error('No session secret: set COPPER_SESSION_SECRET, or run ./start, which makes one.');
  }
}

/** The settings given by the environment, checked once. Throws with one sentence for each that is wrong. */
export function getConfig(): Config {
  if (config) return config;
  const result = schema.safeParse(process.env);
  if (!result.success) {
    throw new Error(result.error.issues.map(({ path: at, message }) => `${at.join('.')}: ${message}`).join('\n'));
  }
  const env = result.data;
  const dataFolder = path.resolve(env.COPPER_DATA);
  config = {
    databaseUrl: env.DATABASE_URL,
    dataFolder,
    get sessionSecret() {
      return env.COPPER_SESSION_SECRET ?? secretFrom(dataFolder);
    },
    logLevel: env.COPPER_LOG_LEVEL,
    maxUploadBytes: env.COPPER_MAX_UPLOAD_MB * 1024 * 1024,
    secureCookie: env.COPPER_SECURE_COOKIE === 'yes',
  };
  return config;
}
