import { readFile } from 'node:fs/promises';
import { parseLane, type Lane } from '../core/lane/schema';
import type { ImpulseResponse } from '../core/stages/definition';
import { decodeImpulse } from '../server/codecs/impulse';
import { probe } from '../server/codecs/probe';
import { existing } from './command';

/** JSON from a file. Throws an Error with a sentence. */
export async function readJson(file: string, what: string): Promise<unknown> {
  const text = await readFile(existing(file), 'utf8');
  try {
    return JSON.parse(text);
  } catch {
    throw new Error(`${file} is not ${what}: it is not JSON.`);
  }
}

/** A lane from a file of the workspace's. Throws an Error with a sentence. */
export async function readLane(file: string): Promise<Lane> {
  return parseLane(await readJson(file, 'a lane file'));
}

/** Files that are given as NAME=FILE. Throws an Error with a sentence. */
export function namedFiles(given: readonly string[]): [name: string, file: string][] {
  return given.map((each) => {
    const [, name, file] = /^([^=]+)=(.+)$/.exec(each) ?? [];
    if (!name) throw new Error(`Give an impulse response as NAME=FILE, not as ${each}.`);
    return [name, file];
  });
}

/** Impulse responses by name, decoded at a sample rate in Hz. Throws an Error with a sentence. */
export async function readImpulses(
  files: readonly (readonly [name: string, file: string])[],
  sampleRate: number,
): Promise<Map<string, ImpulseResponse>> {
  const impulses = new Map<string, ImpulseResponse>();
  for (const [name, file] of files) {
    const { channels } = await probe(existing(file));
    impulses.set(name, await decodeImpulse(existing(file), channels, sampleRate));
  }
  return impulses;
}
