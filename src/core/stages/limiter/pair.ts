import { limiterSettings, type LimiterSettings } from './settings';

/** A limiter of the pair: its name and its settings. */
export interface NamedLimiter {
  name: string;
  settings: LimiterSettings;
}

/**
 * Two limiters in series: the first for character, which is driven and detects sample peaks only; the last as a safety
 * for true peaks, which hardly moves.
 */
export const LIMITER_PAIR: readonly [character: NamedLimiter, safety: NamedLimiter] = [
  {
    name: 'Character',
    settings: limiterSettings.parse({
      inputGainDb: 3,
      lookAheadMs: 2,
      recoveryMs: 30,
      autoRecoveryPercent: 100,
      emphasisDb: 2,
      detection: 'sample',
      linkPercent: 70,
    }),
  },
  {
    name: 'Safety',
    settings: limiterSettings.parse({ lookAheadMs: 5, recoveryMs: 30, detection: 'true8' }),
  },
];
