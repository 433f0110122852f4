import type { SavedSettings } from '../definition';
import { NEVER_REJOIN_MS } from './settings';

/** What recovery, emphasis and link were called until lane schema 5, and what they meant. */
const RECOVERY_TIMES: Readonly<Record<string, number>> = { fast: 0.25, medium: 1, slow: 4, automatic: 0.25 };
const EMPHASES_DB: Readonly<Record<string, number>> = { off: 0, soft: 1, medium: 2, hard: 3.5 };
const DEFAULT_RECOVERY_MS = 120;
/** A share of link for each sample became a time: exact at this rate in Hz, and too short to hear at any. */
const LINK_RATE = 44100;

const own = (table: Readonly<Record<string, number>>, key: unknown): number | undefined =>
  typeof key === 'string' && Object.hasOwn(table, key) ? table[key] : undefined;

/**
 * Milliseconds in which the channels come back together, from the share of the difference that went with each sample.
 */
function rejoinMs(percent: number): number {
  if (percent >= 100) return 0;
  return percent <= 0 ? NEVER_REJOIN_MS : -1000 / (LINK_RATE * Math.log1p(-percent / 100));
}

/** Steps that became amounts: recovery, emphasis, and the second link. Sounds as before. */
export function withAmounts(saved: SavedSettings): SavedSettings {
  const { recovery, emphasis, recoveryLinkPercent, ...settings } = saved;
  const factor = own(RECOVERY_TIMES, recovery ?? 'medium');
  const emphasisDb = own(EMPHASES_DB, emphasis ?? 'off');
  // What can't be read is left for the schema to refuse, with the older name in its sentence.
  if (factor === undefined || emphasisDb === undefined) return saved;
  const { recoveryMs = DEFAULT_RECOVERY_MS } = settings;
  return {
    ...settings,
    recoveryMs: typeof recoveryMs === 'number' ? factor * recoveryMs : recoveryMs,
    preLimitRecoveryMs: recoveryMs,
    autoRecoveryPercent: recovery === 'automatic' ? 100 : 0,
    emphasisDb,
    ...(typeof recoveryLinkPercent === 'number' ? { rejoinMs: rejoinMs(recoveryLinkPercent) } : {}),
  };
}
