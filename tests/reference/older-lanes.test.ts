// Lanes of earlier schemas with the hash of what the core rendered of them then: migrated, they sound the same to the bit.
import { createHash } from 'node:crypto';
import { LaneProcessor } from '@/core/lane/processor';
import { LANE_SCHEMA, parseLane } from '@/core/lane/schema';
import { noise } from '../support/signals';
import older from './lanes/older.json';

const RATE = 44100;
const BLOCK = 1024;

/** SHA-256 of the output as 32-bit float, block by block, left then right. */
function rendered(lane: unknown): string {
  const migrated = parseLane(structuredClone(lane));
  expect(migrated.schema).toBe(LANE_SCHEMA);
  const processor = new LaneProcessor(migrated, { sampleRate: RATE, maxFrames: BLOCK, meterHops: 0 });
  const [left, right] = [noise(48 * BLOCK, 0.7, 5), noise(48 * BLOCK, 0.4, 6)];
  // A quiet stretch, unequal between the channels, in which gains recover.
  for (let i = 20000; i < 30000; i++) {
    left[i] *= 0.05;
    right[i] *= 0.4;
  }
  const hash = createHash('sha256');
  for (let at = 0; at < left.length; at += BLOCK) {
    processor.left.set(left.subarray(at, at + BLOCK));
    processor.right.set(right.subarray(at, at + BLOCK));
    processor.process(BLOCK);
    for (const channel of [processor.left, processor.right])
      hash.update(new Uint8Array(Float32Array.from(channel).buffer));
  }
  return hash.digest('hex');
}

test.each(older)('$name', ({ lane, sha256 }) => {
  expect(rendered(lane)).toBe(sha256);
});
