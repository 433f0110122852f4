import { destinationSchema, type Destination } from '@/core/deliver/destination';
import { readyMade } from '@/core/deliver/ready-made';
import { EMPTY_LANE } from '@/core/lane/schema';
import type { FinishedFileOrder } from '@/server/render/finished-file';

/** A destination like "Disc" without its limits, changed. */
export function destinationWith(change: object): Destination {
  const plain = { ...readyMade('Streaming'), name: 'Test', loudness: null, truePeak: { maxDbtp: 0 } };
  return destinationSchema.parse({ ...plain, ...change });
}

/** An order of a 24-bit mix through an empty lane. */
export function orderWith(
  destination: Destination,
  mix: { sampleRate: number; frames: number },
  change: Partial<FinishedFileOrder> = {},
): FinishedFileOrder {
  return {
    mix: { ...mix, fileName: 'mix.wav', originalHash: '0'.repeat(64), bits: 24, bitsUsed: 24, channels: 2 },
    ...{ lane: EMPTY_LANE, impulseHashes: {}, versionName: 'First version', destination, levelDb: 0, driveDb: 0 },
    ...{ fileName: 'test', by: { studio: 'Studio', engineer: 'Engineer' }, tags: {}, cover: null },
    madeAt: '2026-03-01T12:34:56.000Z',
    ...change,
  };
}
