import { readFileSync } from 'node:fs';
import path from 'node:path';
import { z } from 'zod';

/** How much is logged. */
export const logLevel = z.enum(['fatal', 'error', 'warn', 'info', 'debug', 'trace', 'silent']).default('info');

const schema = z.object({
  DATABASE_URL: z
    .string()
    .startsWith(
      'postgres',
      'DATABASE_URL must be a PostgreSQL address such as postgres://copper@127.0.0.1:5433/copper_lane.',
    ),
  COPPER_DATA: z.string().min(1).default('data'),
  COPPER_SESSION_SECRET: z.string().min(32, 'COPPER_SESSION_SECRET must have at least 32 characters.').optional(),
  COPPER_LOG_LEVEL: logLevel,
  COPPER_MAX_UPLOAD_MB: z.coerce.number().int().min(1).max(2048).default(2048),
  COPPER_SECURE_COOKIE: z.enum(['yes', 'no']).default('no'),
  COPPER_PROXIES: z.coerce.number().int().min(0).max(10).default(0),
  COPPER_QUOTA_GB: z.coerce.number().min(0.001).max(1_000_000).default(500),
  COPPER_MIN_FREE_MB: z.coerce.number().min(0).max(10_000_000).default(1024),
  COPPER_LEASE_S: z.coerce.number().min(5).max(3600).default(15),
  COPPER_HELD_S: z.coerce.number().min(1).max(3600).default(30),
  COPPER_DEMO: z.enum(['yes', 'no']).default('yes'),
});

export interface Config {
  databaseUrl: string;
  /** Absolute folder of the audio store, temporary files and the session secret. */
  dataFolder: string;
  sessionSecret: string;
  maxUploadBytes: number;
  /** Whether the application is reached over https: cookies are then bound to it. */
  secureCookie: boolean;
  /** Proxies in front of the application whose X-Forwarded-For is trusted. */
  proxies: number;
  /** Storage of one account. */
  quotaBytes: number;
  /** What stays free on the disk of the audio store. */
  minFreeBytes: number;
  /** Work whose worker has given no sign of life for this long, in seconds, goes to another. */
  leaseSeconds: number;
  /** Work that was held up, by a full disk for one, is tried again after this many seconds. */
  heldSeconds: number;
  /** Whether the demo may be there. */
  demo: boolean;
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
    maxUploadBytes: env.COPPER_MAX_UPLOAD_MB * 1024 * 1024,
    secureCookie: env.COPPER_SECURE_COOKIE === 'yes',
    proxies: env.COPPER_PROXIES,
    quotaBytes: env.COPPER_QUOTA_GB * 1e9,
    minFreeBytes: env.COPPER_MIN_FREE_MB * 1024 * 1024,
    leaseSeconds: env.COPPER_LEASE_S,
    heldSeconds: env.COPPER_HELD_S,
    demo: env.COPPER_DEMO === 'yes',
  };
  return config;
}
