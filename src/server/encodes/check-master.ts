import { rm } from 'node:fs/promises';
import type { EncodeResult, ProgrammeFiguresTold } from '../../contracts/encode-check';
import type { Encode } from '../../core/deliver/encode';
import { truePeakExcessDb } from '../../core/deliver/true-peak-limit';
import type { Lane, Stage } from '../../core/lane/schema';
import { figureOrNull } from '../../core/measure/intake-report';
import type { ProgrammeFigures } from '../../core/measure/programme-meter';
import { limiterSettings } from '../../core/stages/limiter/settings';
import { describe } from '../../core/stages/setting';
import type { ImpulseResponse } from '../../core/stages/definition';
import { decodeImpulses, requireImpulses, type StoredImpulse } from '../impulses/impulses';
import { render } from '../render/render';
import type { AudioStore } from '../store/audio-store';
import { checkEncode, measureProgramme, type CheckedEncode } from './encode-check';

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

/** The last limiter that is on; null without one. */
function lastLimiter({ stages }: Lane): Extract<Stage, { kind: 'limiter' }> | null {
  return (
    stages.findLast((stage): stage is Extract<Stage, { kind: 'limiter' }> => stage.kind === 'limiter' && stage.on) ??
    null
  );
}

function startOf(lane: Lane): Lowered {
  const limiter = lastLimiter(lane);
  return limiter ? { stage: limiter.id, value: limiter.settings.ceilingDbtp } : { stage: null, value: 0 };
}

function lowered(lane: Lane, { stage, value }: Lowered): Lane {
  if (stage === null) return lane;
  const stages = lane.stages.map((each) =>
    each.id === stage && each.kind === 'limiter'
      ? { ...each, settings: { ...each.settings, ceilingDbtp: value } }
      : each,
  );
  return { ...lane, stages };
}

function told({
  integratedLufs,
  samplePeaksDbfs,
  truePeaksDbtp,
  overs,
  overSeconds,
}: ProgrammeFigures): ProgrammeFiguresTold {
  const pair = ([left, right]: readonly [number, number]) =>
    [figureOrNull(left), figureOrNull(right)] as [number | null, number | null];
  return {
    integratedLufs: figureOrNull(integratedLufs),
    samplePeaksDbfs: pair(samplePeaksDbfs),
    truePeaksDbtp: pair(truePeaksDbtp),
    ...{ overs, overSeconds },
  };
}

interface Rendered {
  source: ProgrammeFigures;
  checked: CheckedEncode;
}

/** Renders a lane, encodes it to a file and measures both. */
async function encodeLane(
  order: CheckOrder,
  setting: Lowered,
  impulses: ReadonlyMap<string, ImpulseResponse>,
  { input, master, target }: { input: string; master: string; target: string },
): Promise<Rendered> {
  const { sampleRate, frames, encode } = order;
  await render({
    ...{ input, output: master, scratch: `${master}.raw`, channels: 2, inputRate: sampleRate, inputBits: 32, frames },
    ...{ lane: lowered(order.lane, setting), impulses, levelDb: setting.stage === null ? setting.value : 0 },
    // As floats, so that nothing is dithered that no file needs.
    ...{ outputRate: sampleRate, depth: '32f', dither: 'none', format: 'WAV', guardDbtp: null, clip: true },
    onProgress: () => {},
  });
  const file = { path: master, sampleRate, frames };
  const source = await measureProgramme(master, sampleRate, frames);
  return { source, checked: await checkEncode(file, encode, target, source.loudestSeconds) };
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
    await store.temporary('.wav'),
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
    const { min } = describe(limiterSettings.shape.ceilingDbtp);
    for (let tries = 1; tries <= MOST_TRIES && excess > 0 && clearing === null; tries++) {
      const value = Math.floor((setting.value - excess) / STEP_DB + 1e-6) * STEP_DB;
      setting = { ...setting, value: Math.round(value * 10) / 10 };
      if (setting.value < min) break;
      const again = await encodeLane(order, setting, impulses, { input, master, target: tried });
      excess = truePeakExcessDb(peakOf(again), order.limitDbtp);
      if (excess === 0) clearing = { ...setting, limitDbtp: order.limitDbtp, truePeakDbtp: peakOf(again) };
      onProgress((tries + 1) / (MOST_TRIES + 1));
    }
    const { hash } = await store.put(target);
    const { delayFrames } = first.checked;
    return {
      hash,
      result: {
        ...{ source: told(first.source), encode: told(first.checked.figures), clearing, delayFrames },
        ...{ frames: order.frames, sampleRate: order.sampleRate },
      },
    };
  } finally {
    for (const file of [master, target, tried]) await rm(file, { force: true });
  }
}
