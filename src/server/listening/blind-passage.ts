import { createHash, randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import type { StreamCodec } from '../../contracts/listening';
import { fileInput, start } from '../codecs/process';
import { Problem } from '../problem';
import { jobStore } from '../store/audio-store';

/** Seconds by which a passage may begin later from trial to trial; what is kept is longer by that. */
export const MOST_SHIFT_SECONDS = 0.5;
/** Passages that are encoded at a time, of all visitors. */
const MOST_AT_A_TIME = 4;
/** Routes are bundled apart, and share what is counted here. */
const holder = globalThis as { copperBlindPassages?: number };

/** Opus at a constant rate has packets of one size. */
const ENCODERS = {
  opus: { ending: '.webm', options: ['-c:a', 'libopus', '-b:a', '160k', '-vbr', 'off', '-f', 'webm'] },
  aac: { ending: '.m4a', options: ['-c:a', 'aac', '-b:a', '192k', '-movflags', '+faststart', '-f', 'mp4'] },
} as const;

/** Bytes that no encode of this many seconds exceeds; MP4 is filled up to them with a box that players skip. */
function filledUp(bytes: Buffer, seconds: number): Buffer<ArrayBuffer> {
  let target = Math.ceil(seconds * 36_000) + 16_384;
  while (target < bytes.length + 8) target *= 2;
  const filled = Buffer.alloc(target);
  bytes.copy(filled);
  filled.writeUInt32BE(target - bytes.length, bytes.length);
  filled.write('free', bytes.length + 4, 'latin1');
  return filled;
}

/**
 * Encodes a passage for one trial: each trial begins a little later than the next, by what only the trial decides, so that no
 * two trials have equal bytes, and neither letter has another length than the other. `file` is a FLAC at `rate`; `seconds` is its
 * length. Throws a Problem (503) when too much of this is under way.
 */
export async function encodeForTrial(
  { file, rate, seconds }: { file: string; rate: number; seconds: number },
  trial: string,
  codec: Exclude<StreamCodec, 'flac'>,
): Promise<Buffer<ArrayBuffer>> {
  if ((holder.copperBlindPassages ?? 0) >= MOST_AT_A_TIME)
    throw new Problem(503, 'The server is preparing other blind tests. Try again in a moment.', {
      retryAfterSeconds: 2,
    });
  holder.copperBlindPassages = (holder.copperBlindPassages ?? 0) + 1;
  const store = jobStore(`blind.${randomUUID()}.`);
  try {
    const { ending, options } = ENCODERS[codec];
    const target = await store.temporary(ending);
    const most = Math.floor(Math.min(MOST_SHIFT_SECONDS, seconds / 4) * rate);
    const shift = createHash('sha256').update(trial).digest().readUInt32LE(0) % (most + 1);
    const cut = ['-af', `atrim=start_sample=${shift},asetpts=PTS-STARTPTS`];
    const { child, finished } = start(
      'ffmpeg',
      [...fileInput('flac', file), ...cut, ...options, '-bitexact', '-map_metadata', '-1', '-y', `file:${target}`],
      { seconds: 30 },
    );
    child.stdin.end();
    child.stdout.resume();
    await finished;
    const bytes = await readFile(target);
    return codec === 'aac' ? filledUp(bytes, seconds) : Buffer.from(bytes);
  } finally {
    holder.copperBlindPassages -= 1;
    await store.discard();
  }
}
