import { rm } from 'node:fs/promises';
import type { EncodeResult } from '../../contracts/encode-check';
import { lastLimiter, withLimiter } from '../../core/deliver/driven';
import type { Encode } from '../../core/deliver/encode';
import { truePeakExcessDb } from '../../core/deliver/true-peak-limit';
import type { Lane } from '../../core/lane/schema';
import type { ProgrammeFigures } from '../../core/measure/programme-meter';
import { limiterSettings } from '../../core/stages/limiter/settings';
import { describe } from '../../core/stages/setting';
import type { ImpulseResponse } from '../../core/stages/definition';
import { decodeImpulses, requireImpulses, type StoredImpulse } from '../impulses/impulses';
import { withMakeup } from '../render/auto-makeup';
import { throughLane } from '../render/lane-run';
import { atLevel } from '../render/level';
import type { AudioStore } from '../store/audio-store';
import { examineEncode, type CheckedEncode } from './encode-check';
import { encodeSamples } from './encode-samples';
import { figuresTold } from './figures-told';

/** Everything that a master is checked in an encode from. */
export interface CheckOrder {
  encode: Encode;
  /** dBTP */
  limitDbtp: number;
  lane: Lane;
  workingHash: string;
  /** Hz */
  sampleRate: number;
  frames: number;
  impulses: Record<string, StoredImpulse>;
}

export interface MadeCheck {
  hash: string;
  result: EncodeResult;
}

/** Encodes that are tried to find what clears a limit. */
const MOST_TRIES = 4;
/** Step of ceilings and levels in dB. */
const STEP_DB = 0.1;

/** A setting that is lowered until the encode stays within its limit. */
interface Lowered {
  stage: string | null;
  value: number;
}

function startOf(lane: Lane): Lowered {
  const limiter = lastLimiter(lane);
  return limiter ? { stage: limiter.id, value: limiter.settings.ceilingDbtp } : { stage: null, value: 0 };
}

function lowered(lane: Lane, { stage, value }: Lowered): Lane {
  return stage === null ? lane : withLimiter(lane, stage, { ceilingDbtp: value });
}

interface Rendered {
  source: ProgrammeFigures;
  checked: CheckedEncode;
}

/** Runs a lane, encodes what it makes to a file and measures both. */
async function encodeLane(
  order: CheckOrder,
  setting: Lowered,
  impulses: ReadonlyMap<string, ImpulseResponse>,
  { input, master, target }: { input: string; master: string; target: string },
): Promise<Rendered> {
  const { sampleRate, frames, encode } = order;
  const options = {
    ...{ input, channels: 2, inputRate: sampleRate, frames, impulses },
    lane: lowered(order.lane, setting),
  };
  const made = throughLane(options, await withMakeup(options));
  const levelDb = setting.stage === null ? setting.value : 0;
  const levelled = atLevel(made, levelDb);
  const targets = [{ encode, path: target }];
  const source = await encodeSamples(levelled, { sampleRate, maxFrames: frames }, targets, master);
  const file = { path: master, raw: true, sampleRate, frames };
  return { source, checked: await examineEncode(file, encode, target, source.loudestSeconds) };
}

/**
 * Checks a whole master in an encode, and when its true peak is over the limit, encodes it again with a lower ceiling, or
 * a lower level without a limiter, until it is not. Nothing is left when it fails.
 */
export async function checkMaster(
  store: AudioStore,
  order: CheckOrder,
  onProgress: (share: number) => void,
): Promise<MadeCheck> {
  const impulses = await decodeImpulses(order.impulses, (hash) => store.locate(hash), order.sampleRate);
  requireImpulses(order.lane, impulses);
  const [master, target, tried] = [
    await store.temporary('.raw'),
    await store.temporary('.encode'),
    await store.temporary('.encode'),
  ];
  const input = await store.locate(order.workingHash);
  const peakOf = ({ checked }: Rendered) => Math.max(...checked.figures.truePeaksDbtp);
  try {
    const start = startOf(order.lane);
    const first = await encodeLane(order, start, impulses, { input, master, target });
    onProgress(1 / (MOST_TRIES + 1));
    let clearing: EncodeResult['clearing'] = null;
    let excess = truePeakExcessDb(peakOf(first), order.limitDbtp);
    let setting = start;
    let tries = 0;
    const { min } = describe(limiterSettings.shape.ceilingDbtp);
    while (tries < MOST_TRIES && excess > 0 && clearing === null) {
      const value = Math.floor((setting.value - excess) / STEP_DB + 1e-6) * STEP_DB;
      setting = { ...setting, value: Math.round(value * 10) / 10 };
      if (setting.value < min) break;
      const again = await encodeLane(order, setting, impulses, { input, master, target: tried });
      tries++;
      excess = truePeakExcessDb(peakOf(again), order.limitDbtp);
      if (excess === 0) clearing = { ...setting, limitDbtp: order.limitDbtp, truePeakDbtp: peakOf(again) };
      onProgress((tries + 1) / (MOST_TRIES + 1));
    }
    const { hash } = await store.put(target);
    const { delayFrames } = first.checked;
    return {
      hash,
      result: {
        ...{ source: figuresTold(first.source), encode: figuresTold(first.checked.figures), clearing, delayFrames },
        ...{ frames: order.frames, sampleRate: order.sampleRate, limitDbtp: order.limitDbtp, tries },
      },
    };
  } finally {
    for (const file of [master, target, tried]) await rm(file, { force: true });
  }
}
