import { amplitude } from '../../signal/decibels';
import { PLAIN, type DynamicsDesign } from '../dynamics';
import type { PeakLimiterDesign } from './peak-limiter';
import type { LimiterSettings, Recovery } from './settings';

/** What the recovery time is multiplied by. */
const PACES: Record<Recovery, number> = { fast: 0.25, medium: 1, slow: 4, automatic: 0.25 };
/** Automatic recovery remembers what lasts this long, in ms, holds this share of it back, and forgets in this many times the recovery time. */
const MEMORY_RISE_MS = 250;
const MEMORY_HELD = 0.7;
const MEMORY_FALL = 4;
const BAND_ATTACK_MS = 0.5;
const BAND_KNEE_DB = 3;

/** What a limiter's settings mean for its gain. */
export function peakLimiterDesign(settings: LimiterSettings): PeakLimiterDesign {
  const { recovery, recoveryMs } = settings;
  return {
    ceiling: amplitude(settings.ceilingDbtp),
    lookAheadMs: settings.lookAheadMs,
    recoveryMs: PACES[recovery] * recoveryMs,
    memory:
      recovery === 'automatic' ? { held: MEMORY_HELD, riseMs: MEMORY_RISE_MS, fallMs: MEMORY_FALL * recoveryMs } : null,
    detection: settings.detection,
    link: settings.linkPercent / 100,
    recoveryLink: settings.recoveryLinkPercent / 100,
  };
}

/** What holds each band ahead of the limiter. */
export function bandLimit({ ceilingDbtp, preLimitDb, recoveryMs, linkPercent }: LimiterSettings): DynamicsDesign {
  return {
    ...PLAIN,
    thresholdDbfs: ceilingDbtp + preLimitDb,
    slope: 1,
    kneeDb: BAND_KNEE_DB,
    attackMs: BAND_ATTACK_MS,
    releaseMs: recoveryMs,
    link: linkPercent / 100,
  };
}
