import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { makeZip } from 'client-zip';
import { create as contentDisposition } from 'content-disposition';
import filenamify from 'filenamify';
import type { Knex } from 'knex';
import { receiptSchema, type Receipt } from '../../core/deliver/receipt';
import { lazyStream } from '../http/lazy-stream';
import { withinBytes } from '../http/upload';
import { requireOwn } from '../ownership';
import { Problem } from '../problem';
import { audioStore } from '../store/audio-store';
import { deliveryNote } from './delivery-note';
import { receiptsCsv } from './receipt-csv';
import { receiptPdf } from './receipt-pdf';
import { jsonOf } from './receipts';

/** A finished delivery that goes into a package. */
interface Packed {
  path: string;
  hash: string;
  receipt: Receipt;
  /** The receipt as it was signed. */
  saved: unknown;
  finishedAt: Date;
}

/** Bytes of a folder's name. */
const MOST_FOLDER_BYTES = 120;

const safe = (name: string) =>
  withinBytes(filenamify(name, { replacement: '-' }).normalize('NFC'), MOST_FOLDER_BYTES) || 'Untitled';

/** The newest finished delivery of each track to each destination of a release, in the order of the tracks. */
async function packedOf(db: Knex, releaseId: string): Promise<Packed[]> {
  const rows = await db
    .with('newest', (query) => {
      void query
        .from('deliveries as d')
        .join('tracks as t', 't.id', 'd.track_id')
        .where({ 't.release_id': releaseId, 't.removed_at': null, 'd.status': 'finished' })
        .distinctOn('d.track_id', db.raw(`d.destination ->> 'name'`) as never)
        .orderByRaw(`d.track_id, d.destination ->> 'name', d.created_at desc`)
        .select('d.file_hash', 'd.receipt', 'd.finished_at', 'd.file_name', 't.position');
    })
    .from('newest')
    .orderBy(['position', 'file_name'])
    .select<{ file_hash: string; receipt: unknown; finished_at: Date; file_name: string }[]>('*');
  const taken = new Set<string>();
  return rows.map(({ file_hash: hash, receipt: saved, finished_at: finishedAt, file_name: name }) => {
    const receipt = receiptSchema.parse(saved);
    const folder = safe(receipt.destination.name);
    let path = `${folder}/${name}`;
    // Two files of one name lie beside each other.
    for (let n = 2; taken.has(path); n++) path = `${folder}/${n} ${name}`;
    taken.add(path);
    return { path, hash, receipt, saved, finishedAt };
  });
}

async function* piecesOf(zip: ReadableStream<Uint8Array>): AsyncGenerator<Uint8Array, void, undefined> {
  const reader = zip.getReader();
  try {
    for (let piece = await reader.read(); !piece.done; piece = await reader.read()) yield piece.value;
  } finally {
    await reader.cancel();
  }
}

/**
 * A release's finished files in one zip, streamed: files in a folder for each destination, receipts, checksums, figures and
 * a delivery note. Nothing is compressed: sound does not get smaller. Throws a Problem: 404 for another's, 409 without a
 * finished delivery.
 */
export async function releasePackage(
  db: Knex,
  request: Request,
  accountId: string,
  releaseId: string,
): Promise<Response> {
  const release = await requireOwn<{ title: string; artist: string }>(db, 'releases', accountId, releaseId, [
    ...(['title', 'artist'] as const),
  ]);
  const packed = await packedOf(db, releaseId);
  if (packed.length === 0)
    throw new Problem(
      409,
      'Nothing of this release is delivered yet. Deliver something, and wait until it is finished.',
    );
  const store = audioStore(db);
  const root = safe(release.title);
  const lastModified = packed.map(({ finishedAt }) => finishedAt).reduce((a, b) => (a > b ? a : b));
  const text = (name: string, input: string | Uint8Array<ArrayBuffer>) => ({
    name: `${root}/${name}`,
    lastModified,
    input,
  });
  const sums = packed.map(({ receipt, path }) => `${receipt.file.sha256}  ${path}\n`).join('');
  const files = await Promise.all(
    packed.map(async ({ path, hash, finishedAt }) => ({
      name: `${root}/${path}`,
      lastModified: finishedAt,
      size: await store.size(hash),
      file: await store.locate(hash),
    })),
  );
  const small = [
    text('Delivery note.txt', deliveryNote(release, packed)),
    text('Figures.csv', receiptsCsv(packed.map(({ receipt }) => receipt))),
    text('SHA256SUMS', sums),
    ...(await Promise.all(
      packed.flatMap(({ path, receipt, saved }) => [
        Promise.resolve(text(`Receipts/${path}.receipt.json`, jsonOf(saved))),
        receiptPdf(receipt, { settings: false }).then((pdf) =>
          text(`Receipts/${path}.receipt.pdf`, Uint8Array.from(pdf)),
        ),
      ]),
    )),
    ...packed.flatMap(({ path, receipt }) => {
      const name = path.slice(path.lastIndexOf('/') + 1);
      return receipt.destination.checksum ? [text(`${path}.sha256`, `${receipt.file.sha256}  ${name}\n`)] : [];
    }),
  ];
  // A file is opened when its turn comes, so that a hundred of them are not open at once.
  function* entries() {
    yield* small;
    for (const { file, ...entry } of files)
      yield { ...entry, input: Readable.toWeb(createReadStream(file)) as ReadableStream<Uint8Array<ArrayBuffer>> };
  }
  return new Response(
    lazyStream(() => piecesOf(makeZip(entries())), request.signal),
    {
      headers: {
        'Content-Type': 'application/zip',
        'Content-Disposition': contentDisposition(`${root}.zip`),
      },
    },
  );
}
