import { amplitude } from '../../signal/decibels';
import { PLAIN, type DynamicsDesign } from '../dynamics';
import type { PeakLimiterDesign } from './peak-limiter';
import { NEVER_REJOIN_MS, type LimiterSettings } from './settings';

/**
 * Auto recovery remembers gain reduction that lasts this long, in ms, holds back at most this share of it, and forgets in this
 * many times the recovery time.
 */
const MEMORY_RISE_MS = 250;
const MEMORY_HELD = 0.7;
const MEMORY_FALL = 16;
const BAND_ATTACK_MS = 0.5;
const BAND_KNEE_DB = 3;

/** What a limiter's settings mean for its gain. */
export function peakLimiterDesign(settings: LimiterSettings): PeakLimiterDesign {
  const { recoveryMs, autoRecoveryPercent, rejoinMs } = settings;
  return {
    ceiling: amplitude(settings.ceilingDbtp),
    lookAheadMs: settings.lookAheadMs,
    recoveryMs,
    memory:
      autoRecoveryPercent > 0
        ? { held: (MEMORY_HELD * autoRecoveryPercent) / 100, riseMs: MEMORY_RISE_MS, fallMs: MEMORY_FALL * recoveryMs }
        : null,
    detection: settings.detection,
    link: settings.linkPercent / 100,
    rejoinMs: rejoinMs < NEVER_REJOIN_MS ? rejoinMs : Infinity,
  };
}

/** What limits each band before the limiter. */
export function bandLimit({
  ceilingDbtp,
  preLimitDb,
  preLimitRecoveryMs,
  linkPercent,
}: LimiterSettings): DynamicsDesign {
  return {
    ...PLAIN,
    thresholdDbfs: ceilingDbtp + preLimitDb,
    slope: 1,
    kneeDb: BAND_KNEE_DB,
    attackMs: BAND_ATTACK_MS,
    releaseMs: preLimitRecoveryMs,
    link: linkPercent / 100,
  };
}
