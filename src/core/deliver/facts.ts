import type { CuttingReading } from '../measure/cutting';
import type { Encode } from './encode';
import type { Format } from './format';
import type { Tags } from './tags';

/** What an encode of a master measures. */
export interface EncodeReading extends Encode {
  /** dBTP, the louder channel. */
  truePeakDbtp: number;
}

/** What is known of a finished file itself. */
export interface FileFacts {
  /** Null for one that no destination asks for. */
  format: Format | null;
  /** Hz */
  sampleRate: number;
  /** Bits that it keeps for each sample. */
  bits: number;
  /** Bits in use, from the top; null for floats. */
  bitsUsed: number | null;
}

/** What is known of a mix. */
export interface MixFacts {
  /** Hz */
  sampleRate: number;
  /** Bits in use, from the top; null for floats. */
  bitsUsed: number | null;
}

/** What is known of a master or of a finished file. What is left out is not known yet. */
export interface Facts {
  /** LUFS; −∞ when nothing passes the gates. */
  integratedLufs: number;
  /** dBTP, the louder channel. */
  truePeakDbtp: number;
  maxMomentaryLufs?: number;
  maxShortTermLufs?: number;
  rangeLu?: number;
  durationSeconds?: number;
  /** Silence at either end, seconds. */
  headSeconds?: number;
  tailSeconds?: number;
  mix: MixFacts;
  /** Null for a master that is not yet written: its file will be what the delivery makes it. */
  file: FileFacts | null;
  encodes?: readonly EncodeReading[];
  tags?: Tags;
  cutting?: CuttingReading;
}

/** The same at another level, in dB; the peaks that an encode adds move with it. */
export function atLevel<Levels extends Partial<Facts>>(facts: Levels, levelDb: number): Levels {
  const moved = { ...facts };
  for (const key of ['integratedLufs', 'truePeakDbtp', 'maxMomentaryLufs', 'maxShortTermLufs'] as const) {
    const level = facts[key];
    if (level !== undefined) moved[key] = level + levelDb;
  }
  moved.encodes = facts.encodes?.map((each) => ({ ...each, truePeakDbtp: each.truePeakDbtp + levelDb }));
  return moved;
}
