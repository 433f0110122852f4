import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { examine } from './examine';
import type { Answer, Slip } from './slip';

/** Accepted files that the desk keeps: those that came last. */
const MOST_KEPT = 20;

async function clear(accepted: string): Promise<void> {
  const places = (await readdir(accepted)).map((name) => path.join(accepted, name));
  const dated = await Promise.all(places.map(async (place) => ({ place, at: (await stat(place)).mtimeMs })));
  const old = dated.sort((a, b) => b.at - a.at).slice(MOST_KEPT);
  for (const { place } of old) await rm(place, { recursive: true, force: true });
}

/**
 * The receiving desk: a simulated stand-in for whoever a delivery is for. It takes a file with its slip, examines it with
 * programs of its own, and keeps what it accepts in its folder, with the slip and its answer.
 */
export async function receive(folder: string, slip: Slip, file: Readable): Promise<Answer> {
  const incoming = path.join(folder, 'incoming');
  const accepted = path.join(folder, 'accepted');
  await mkdir(incoming, { recursive: true });
  const arrived = path.join(incoming, randomUUID());
  try {
    await pipeline(file, createWriteStream(arrived, { flags: 'wx' }));
    const answer = await examine(arrived, slip);
    if (answer.accepted) {
      // By content, so that the same file handed over twice lies there once.
      const place = path.join(accepted, createHash('sha256').update(JSON.stringify(slip)).digest('hex').slice(0, 24));
      await mkdir(place, { recursive: true });
      await rename(arrived, path.join(place, slip.name));
      await writeFile(path.join(place, '.slip.json'), JSON.stringify({ slip, answer }, null, 2));
      await clear(accepted);
    }
    return answer;
  } finally {
    await rm(arrived, { force: true });
  }
}
