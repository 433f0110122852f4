import { mkdir, rename, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { randomUUID } from 'node:crypto';
import { parseArgs } from 'node:util';
import { EMPTY_LANE } from '../core/lane/schema';
import type { Receipt } from '../core/deliver/receipt';
import type { Destination } from '../core/deliver/destination';
import { tagsOf } from '../core/deliver/tags';
import type { ImpulseResponse } from '../core/stages/definition';
import { probe, type Source } from '../server/codecs/probe';
import { deliveredName } from '../server/deliveries/delivered-name';
import { requireImpulses } from '../server/impulses/impulses';
import { bitsUsedOf, fileHash } from '../server/render/examine-file';
import { makeFinishedFile } from '../server/render/finished-file';
import { runLane, type LaneRun } from '../server/render/lane-run';
import { existing, runCommand } from './command';
import { readImpulses, readJson, readLane } from './inputs';
import { destinationsOf, manifestSchema, namePartsOf, type Manifest } from './manifest';

/** Exit status when everything was made, and something of it misses its destination. */
const MISSES = 2;

async function readManifest(file: string): Promise<Manifest> {
  const checked = manifestSchema.safeParse(await readJson(file, 'a manifest'));
  if (checked.success) return checked.data;
  const [{ path: place, message }] = checked.error.issues;
  throw new Error(`${file}: ${place.length > 0 ? `${place.join('.')}: ` : ''}${message}`);
}

/** MIME type of a cover picture by its name’s ending. Throws an Error for another picture. */
function coverType(file: string): string {
  const type = { '.jpg': 'image/jpeg', '.jpeg': 'image/jpeg', '.png': 'image/png' }[path.extname(file).toLowerCase()];
  if (!type) throw new Error(`${file} is not a JPEG or PNG picture.`);
  return type;
}

/** A track’s mix and lane, and what the lane made of it. */
interface Prepared {
  input: string;
  source: Source;
  impulses: ReadonlyMap<string, ImpulseResponse>;
  impulseHashes: Record<string, string>;
  laneRun: LaneRun;
}

/** Runs the lane of a track, into a file of its own. */
async function prepare(manifest: Manifest, base: string, index: number, target: string): Promise<Prepared> {
  const track = manifest.tracks[index];
  const input = existing(path.resolve(base, track.file));
  const source = await probe(input);
  const lane = track.lane === undefined ? EMPTY_LANE : await readLane(path.resolve(base, track.lane));
  const files = Object.entries(manifest.impulses).map(([name, file]) => [name, path.resolve(base, file)] as const);
  const impulses = await readImpulses(files, source.sampleRate);
  requireImpulses(lane, impulses);
  const { sampleRate, channels, durationSeconds } = source;
  const frames = Math.round(durationSeconds * sampleRate);
  return {
    ...{ input, source, impulses },
    impulseHashes: Object.fromEntries(
      await Promise.all(files.map(async ([name, file]) => [name, await fileHash(file)] as const)),
    ),
    laneRun: await runLane({ input, channels, inputRate: sampleRate, frames, lane, impulses }, target),
  };
}

/** Makes the file of a track for a destination and writes its receipt beside it; both are there whole or not at all. */
async function master(
  manifest: Manifest,
  base: string,
  index: number,
  destination: Destination,
  { input, source, impulses, impulseHashes, laneRun }: Prepared,
): Promise<{ name: string; receipt: Receipt }> {
  const track = manifest.tracks[index];
  const name = deliveredName(manifest.pattern, namePartsOf(manifest, track, index, destination), destination);
  const folder = path.resolve(base, manifest.folder);
  const cover = manifest.release.cover === undefined ? null : existing(path.resolve(base, manifest.release.cover));
  const part = path.join(folder, `.${randomUUID()}.part`);
  try {
    const receipt = await makeFinishedFile(
      {
        mix: {
          ...{ fileName: path.basename(track.file), originalHash: await fileHash(input) },
          ...{ sampleRate: source.sampleRate, channels: source.channels, bits: source.float ? 32 : source.bits },
          frames: Math.round(source.durationSeconds * source.sampleRate),
          // It takes a reading of the whole mix: only where it matters.
          bitsUsed: destination.wordLength.reducedOnce ? await bitsUsedOf(input) : null,
        },
        impulseHashes,
        cover: cover === null ? null : { sha256: await fileHash(cover), type: coverType(cover) },
        madeAt: new Date().toISOString(),
        ...{
          lane: laneRun.lane,
          versionName: track.lane ?? 'empty lane',
          destination,
          fileName: name,
          by: manifest.by,
        },
        driveDb: 0,
        levelDb: Object.hasOwn(track.levels, destination.name) ? track.levels[destination.name] : 0,
        tags: tagsOf({
          ...{ tracks: manifest.tracks.length, ean: manifest.release.ean },
          ...{ title: track.title, position: index + 1, trackArtist: track.artist, isrc: track.isrc },
          ...{ composer: track.composer, trackCopyright: track.copyright, release: manifest.release.title },
          ...{ releaseArtist: manifest.release.artist, releaseCopyright: manifest.release.copyright },
          year: manifest.release.year,
        }),
      },
      impulses,
      { input, output: part, scratch: `${part}.raw`, cover: cover ?? undefined, laneRun },
    );
    await writeFile(`${part}.json`, `${JSON.stringify(receipt, null, 2)}\n`);
    await rename(part, path.join(folder, name));
    await rename(`${part}.json`, path.join(folder, `${name}.receipt.json`));
    return { name, receipt };
  } finally {
    await rm(part, { force: true });
    await rm(`${part}.json`, { force: true });
  }
}

// master MANIFEST: renders the tracks of a manifest for its destinations, each with a receipt, and writes their checksums.
await runCommand(async () => {
  const { positionals } = parseArgs({ allowPositionals: true });
  if (positionals.length !== 1) throw new Error('Usage: npm run --silent master -- MANIFEST.json');
  const manifest = await readManifest(positionals[0]);
  const base = path.dirname(existing(positionals[0]));
  const destinations = destinationsOf(manifest);
  const names = manifest.tracks.flatMap((track, index) =>
    destinations.map((each) => deliveredName(manifest.pattern, namePartsOf(manifest, track, index, each), each)),
  );
  const twice = names.find((name, i) => names.indexOf(name) < i);
  if (twice !== undefined) throw new Error(`Two files would be called ${twice}. Use more parts in the pattern.`);
  const sums: string[] = [];
  const folder = path.resolve(base, manifest.folder);
  if (path.relative(base, folder).startsWith('..'))
    throw new Error(
      `The folder of the files, ${manifest.folder}, lies outside of that of the manifest. Name one inside.`,
    );
  await mkdir(folder, { recursive: true });
  for (const index of manifest.tracks.keys()) {
    const run = path.join(folder, `.${randomUUID()}.raw`);
    try {
      const prepared = await prepare(manifest, base, index, run);
      for (const destination of destinations) {
        const { name, receipt } = await master(manifest, base, index, destination, prepared);
        const { standing, requirements } = receipt.verdict;
        const misses = requirements.filter((each) => each.standing === 'misses').map(({ miss }) => miss);
        process.stdout.write(`${standing}\t${name}${misses.length > 0 ? `\t${misses.join('; ')}` : ''}\n`);
        if (standing === 'misses') process.exitCode = MISSES;
        sums.push(`${receipt.file.sha256}  ${name}\n`);
      }
    } finally {
      await rm(run, { force: true });
    }
  }
  await writeFile(path.join(folder, 'SHA256SUMS'), sums.join(''));
});
