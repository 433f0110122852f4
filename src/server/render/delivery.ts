import { rm, stat } from 'node:fs/promises';
import type { Destination } from '../../core/deliver/destination';
import type { Receipt } from '../../core/deliver/receipt';
import { judge } from '../../core/deliver/verdict';
import { figureOrNull, channelsInDecibels } from '../../core/measure/intake-report';
import type { Lane } from '../../core/lane/schema';
import { decibels } from '../../core/signal/decibels';
import { CORE_VERSION } from '../../core/version';
import { decodeImpulses, requireImpulses, type StoredImpulse } from '../impulses/impulses';
import { probe } from '../codecs/probe';
import { output } from '../codecs/process';
import { measureFile } from '../intake/measure-file';
import type { AudioStore } from '../store/audio-store';
import { render } from './render';

/** Everything a delivery is made from. */
export interface DeliveryOrder {
  mix: {
    fileName: string;
    originalHash: string;
    workingHash: string;
    sampleRate: number;
    bits: number;
    frames: number;
  };
  lane: Lane;
  /** Impulse responses that the lane names. */
  impulses: Record<string, StoredImpulse>;
  versionName: string;
  destination: Destination;
  levelDb: number;
  fileName: string;
  by: { studio: string; engineer: string };
  tags: Record<string, string>;
}

export interface MadeDelivery {
  hash: string;
  receipt: Receipt;
}

async function ffmpegVersion(): Promise<string> {
  return /version (\S+)/.exec(await output('ffmpeg', ['-version']))?.[1] ?? 'unknown';
}

/** Renders, measures the finished file and puts it into the store; nothing is left when it fails. */
export async function makeDelivery(
  store: AudioStore,
  order: DeliveryOrder,
  onProgress: (share: number) => void,
): Promise<MadeDelivery> {
  const { mix, lane, destination, levelDb } = order;
  const file = await store.temporary(`.${destination.container}`);
  try {
    const impulses = await decodeImpulses(order.impulses, (hash) => store.locate(hash), mix.sampleRate);
    requireImpulses(lane, impulses);
    const outputRate = destination.sampleRate ?? mix.sampleRate;
    const rendered = await render({
      input: await store.locate(mix.workingHash),
      channels: 2,
      inputRate: mix.sampleRate,
      inputBits: mix.bits,
      frames: mix.frames,
      lane,
      impulses,
      levelDb,
      outputRate,
      depth: destination.depth,
      dither: destination.dither,
      digitalSilence: destination.digitalSilence,
      container: destination.container,
      guardDbtp: destination.maxTruePeakDbtp,
      tags: order.tags,
      output: file,
      scratch: await store.temporary('.raw'),
      onProgress: (share) => onProgress(0.8 * share),
    });
    const written = await probe(file);
    const measured = await measureFile(
      file,
      written.sampleRate,
      2,
      Math.round(written.durationSeconds * written.sampleRate),
      (share) => onProgress(0.8 + 0.2 * share),
    );
    const { size } = await stat(file);
    const { hash } = await store.put(file);
    const truePeakDbtp = decibels(Math.max(...measured.truePeak));
    const receipt: Receipt = {
      schema: 1,
      file: {
        name: order.fileName,
        bytes: size,
        sha256: hash,
        container: written.container,
        sampleRate: written.sampleRate,
        bits: written.bits,
        frames: measured.frames,
        durationSeconds: measured.frames / written.sampleRate,
      },
      measured: {
        integratedLufs: figureOrNull(measured.integratedLufs),
        maxMomentaryLufs: figureOrNull(measured.maxMomentaryLufs),
        maxShortTermLufs: figureOrNull(measured.maxShortTermLufs),
        rangeLu: measured.rangeLu,
        plrLu: figureOrNull(truePeakDbtp - measured.integratedLufs),
        samplePeakDbfs: channelsInDecibels(measured.samplePeak),
        truePeakDbtp: channelsInDecibels(measured.truePeak),
      },
      verdict: judge(destination, {
        integratedLufs: measured.integratedLufs,
        truePeakDbtp,
        sampleRate: written.sampleRate,
        depth: written.bits,
      }),
      destination,
      mix: { fileName: mix.fileName, sha256: mix.originalHash },
      version: order.versionName,
      lane: rendered.lane,
      levelDb,
      guardDb: rendered.guardDb,
      dither: rendered.dither,
      clippedSamples: rendered.clipped,
      by: order.by,
      made: { core: CORE_VERSION, ffmpeg: await ffmpegVersion() },
    };
    return { hash, receipt };
  } catch (error) {
    await rm(file, { force: true });
    throw error;
  }
}
