import type { Knex } from 'knex';
import type { Source } from '../codecs/probe';
import { impulsesOf } from '../impulses/impulses';
import type { ImagePart } from './assemble-image';

interface MixRow {
  id: string;
  fileName: string;
  originalHash: string;
  workingHash: string;
  sampleRate: number;
  frames: string;
  source: Source;
  bitsUsed: string | null;
}

/** A track of a release as it was decided on. */
interface DecidedTrack extends Pick<ImagePart, 'lane' | 'levelDb' | 'joint' | 'title' | 'artist' | 'isrc'> {
  mixId: string;
  /** Name of the version. */
  version: string;
}

/** Tracks with everything that they are rendered from; undefined when a mix is gone. */
export async function partsOf(
  db: Knex,
  accountId: string,
  tracks: readonly DecidedTrack[],
): Promise<ImagePart[] | undefined> {
  const rows = await db('mixes')
    .whereIn(
      'id',
      tracks.map(({ mixId }) => mixId),
    )
    .select<MixRow[]>(
      ...['id', 'file_name as fileName', 'original_hash as originalHash', 'working_hash as workingHash'],
      ...['sample_rate as sampleRate', 'frames', 'source'],
      db.raw(`findings ->> 'bitsUsed' as "bitsUsed"`) as never,
    );
  const parts: ImagePart[] = [];
  for (const { mixId, version, lane, ...track } of tracks) {
    const mix = rows.find((each) => each.id === mixId);
    if (!mix) return undefined;
    const impulses = await impulsesOf(db, accountId, lane);
    parts.push({
      ...{ ...track, versionName: version, lane, impulses, workingHash: mix.workingHash },
      impulseHashes: Object.fromEntries(Object.entries(impulses).map(([name, { hash }]) => [name, hash])),
      mix: {
        ...{ fileName: mix.fileName, originalHash: mix.originalHash, sampleRate: mix.sampleRate, channels: 2 },
        bits: mix.source.float ? 32 : mix.source.bits,
        bitsUsed: mix.bitsUsed === null ? null : Number(mix.bitsUsed),
        frames: Number(mix.frames),
      },
    });
  }
  return parts;
}
