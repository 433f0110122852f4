/** What a file can be. */
export const FORMATS = ['WAV', 'Broadcast WAV', 'FLAC', 'AIFF', 'ALAC', 'MP3', 'AAC'] as const;
export type Format = (typeof FORMATS)[number];

interface FormatTraits {
  /** Ending of a file's name. */
  extension: string;
  /** MIME type. */
  type: string;
  /** Whether every sample comes back; encodes are for listening. */
  lossless: boolean;
  /** What it is, where the name alone does not say it. */
  help: string;
}

export const FORMAT_TRAITS: Record<Format, FormatTraits> = {
  WAV: {
    ...{ extension: 'wav', type: 'audio/wav', lossless: true },
    help: 'Samples as they are. Beyond 4 GiB it becomes RF64, which not every program reads.',
  },
  'Broadcast WAV': {
    ...{ extension: 'wav', type: 'audio/wav', lossless: true },
    help: 'WAV with a bext chunk, version 2: who made it and when, and the measured loudness.',
  },
  FLAC: {
    ...{ extension: 'flac', type: 'audio/flac', lossless: true },
    help: 'About half the size of WAV. It carries a checksum of its samples.',
  },
  AIFF: {
    ...{ extension: 'aiff', type: 'audio/aiff', lossless: true },
    help: 'Samples as they are, up to 4 GiB.',
  },
  ALAC: {
    ...{ extension: 'm4a', type: 'audio/mp4', lossless: true },
    help: 'Lossless in MP4, about the size of FLAC.',
  },
  MP3: {
    ...{ extension: 'mp3', type: 'audio/mpeg', lossless: false },
    help: 'A listening copy that plays everywhere. Its peaks are higher than those of the master.',
  },
  AAC: {
    ...{ extension: 'm4a', type: 'audio/mp4', lossless: false },
    help: 'A listening copy in MP4. It sounds better than MP3 at the same size.',
  },
};

/** Word lengths that lossless files can have, in bits. 20 bits are kept in 24. */
export const WORD_LENGTHS = [16, 20, 24] as const;
export type WordLength = (typeof WORD_LENGTHS)[number];

/** Bits that a file of a word length keeps for each sample. */
export function storedBits(wordLength: WordLength): 16 | 24 {
  return wordLength === 16 ? 16 : 24;
}
