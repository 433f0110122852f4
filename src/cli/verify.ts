import { randomUUID } from 'node:crypto';
import { rm } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { sameEncode } from '../core/deliver/encode';
import { FORMAT_TRAITS } from '../core/deliver/format';
import { FILE_FORM, receiptSchema, type Receipt } from '../core/deliver/receipt';
import type { Verdict } from '../core/deliver/verdict';
import { CORE_VERSION } from '../core/version';
import { probe } from '../server/codecs/probe';
import { signatureHolds } from '../server/deliveries/signature';
import { examineFile, fileFacts, fileHash, measureCutting, type Examined } from '../server/render/examine-file';
import { judgeFile } from '../server/render/judge-file';
import { makeFinishedFile } from '../server/render/finished-file';
import { existing, printable, runCommand } from './command';
import { namedFiles, readImpulses, readJson } from './inputs';

const USAGE =
  'npm run --silent verify -- RECEIPT.json FILE [--key KEY] [--mix MIX [--impulse NAME=FILE.wav] [--cover FILE]]';
/** Exit status when the receipt is not true. */
const FALSE = 2;
/** Readings of one file are the same within this, in dB. */
const SAME_DB = 0.005;

/** What a file has other than its receipt says, as sentences. */
async function differences(receipt: Receipt, file: string): Promise<string[]> {
  const examined = await examineFile(file);
  const found = { ...examined.file, ...(await fileFacts(file, receipt.file.name)) };
  const facts = (['bytes', 'sha256', 'container', 'sampleRate', 'bits', 'frames'] as const).flatMap((key) =>
    found[key] === receipt.file[key]
      ? []
      : [`${key}: the receipt says ${receipt.file[key]}, the file has ${found[key]}.`],
  );
  const flat = (measured: Receipt['measured']) =>
    Object.entries(measured).flatMap(([key, value]) =>
      [value].flat().map((each, i) => [Array.isArray(value) ? `${key} ${i + 1}` : key, each] as const),
    );
  const theirs = flat(receipt.measured);
  const figures = flat(examined.measured).flatMap(([key, value], i) => {
    const [, said] = theirs[i];
    const same = value === said || (value !== null && said !== null && Math.abs(value - said) <= SAME_DB);
    return same ? [] : [`${key}: the receipt says ${said}, the file measures ${value}.`];
  });
  return [...facts, ...figures, ...(await misjudged(receipt, file, examined))];
}

/** What the verdict of a receipt should say of its file and does not, as sentences. */
async function misjudged(receipt: Receipt, file: string, examined: Examined): Promise<string[]> {
  const { destination, verdict, mix, encodes, tags } = receipt;
  const cutting = destination.cutting ? await measureCutting(file, examined.file.sampleRate) : undefined;
  const { measured, facts, headSeconds, tailSeconds } = examined;
  const grounds = {
    ...{ measured, facts, headSeconds, tailSeconds, encodes, tags, cutting },
    durationSeconds: examined.file.durationSeconds,
    mix: { bitsUsed: mix.bitsUsed, sampleRate: mix.sampleRate ?? examined.file.sampleRate },
  };
  const judged = judgeFile(destination, grounds);
  const missing = destination.encodes.filter((asked) => !encodes.some((each) => sameEncode(each, asked)));
  const unchecked = missing.map(
    ({ codec, kbps }) => `The destination asks for ${codec} at ${kbps} kb/s, and the receipt has no such check.`,
  );
  // The rate of the mix was not in earlier receipts.
  const told = (each: Verdict) =>
    each.requirements
      .filter(({ title }) => mix.sampleRate !== null || title !== 'Sample rate')
      .map(({ title, standing }) => `${title} ${standing}`);
  const [says, is] = [told(verdict), told(judged)];
  const requirements = [
    ...is.filter((each) => !says.includes(each)).map((each) => `The file: ${each}. The receipt does not say so.`),
    ...says
      .filter((each) => !is.includes(each))
      .map((each) => `The receipt says: ${each}. The file does not bear that out.`),
  ];
  const standing =
    mix.sampleRate !== null && judged.standing !== verdict.standing
      ? [`The receipt says that it ${verdict.standing}; by its figures it ${judged.standing}.`]
      : [];
  return [...unchecked, ...requirements, ...standing];
}

/** What is wrong with the signature of a receipt, and what is right with it, as sentences. */
function signature(
  saved: Record<string, unknown>,
  receipt: Receipt,
  key: string | undefined,
): { against: string[]; words: string } {
  const holds = signatureHolds(saved, receipt);
  if (holds === false) return { against: ['The receipt was changed after it was signed.'], words: '' };
  if (key !== undefined && receipt.signature?.publicKey !== key)
    return {
      against: [holds === null ? 'The receipt is not signed.' : 'The receipt is signed with another key.'],
      words: '',
    };
  if (holds === null) return { against: [], words: ' It is not signed: who made it can’t be told.' };
  const words =
    key === undefined ? `It is signed with the key ${receipt.signature!.publicKey}.` : 'It is signed with that key.';
  return { against: [], words: ` ${words}` };
}

/** What a file was made from besides its mix. */
interface Given {
  /** NAME=FILE for each impulse response. */
  impulses: readonly string[];
  cover?: string;
}

/** What was given that is not what a receipt names, as sentences. */
async function strangers(receipt: Receipt, { impulses, cover }: Given): Promise<string[]> {
  const found: string[] = [];
  for (const [name, file] of namedFiles(impulses))
    if (Object.hasOwn(receipt.impulses, name) && (await fileHash(existing(file))) !== receipt.impulses[name])
      found.push(`${file} is not the impulse response that the receipt names ${name}.`);
  if (receipt.cover && cover === undefined) found.push('The file has a cover picture: give it with --cover.');
  if (receipt.cover && cover !== undefined && (await fileHash(existing(cover))) !== receipt.cover.sha256)
    found.push(`${cover} is not the cover picture that the receipt names.`);
  return found;
}

/** Makes the file again from its mix; gives what stands against the receipt, as sentences. */
async function madeAgain(receipt: Receipt, mix: string, given: Given): Promise<string[]> {
  if ((await fileHash(mix)) !== receipt.mix.sha256) return [`${mix} is not the mix that the receipt names.`];
  if (receipt.made.core !== CORE_VERSION)
    return [`The file was made with core ${receipt.made.core}; this is ${CORE_VERSION}, which may give other bits.`];
  if (receipt.made.form !== FILE_FORM || receipt.made.at === null)
    return ['The file was made by an earlier release, which wrote files in another form.'];
  const unlike = await strangers(receipt, given);
  if (unlike.length > 0) return unlike;
  const source = await probe(mix);
  const { extension } = FORMAT_TRAITS[receipt.destination.format.name];
  const part = path.join(os.tmpdir(), `copper-verify-${randomUUID()}.${extension}`);
  try {
    const again = await makeFinishedFile(
      {
        mix: {
          ...{ fileName: receipt.mix.fileName, originalHash: receipt.mix.sha256, channels: source.channels },
          ...{ sampleRate: source.sampleRate, bits: source.float ? 32 : source.bits },
          bitsUsed: receipt.mix.bitsUsed,
          frames: Math.round(source.durationSeconds * source.sampleRate),
        },
        ...{ lane: receipt.lane, versionName: receipt.version, destination: receipt.destination },
        ...{
          levelDb: receipt.levelDb,
          driveDb: receipt.driveDb,
          fileName: receipt.file.name,
          by: receipt.by,
          tags: receipt.tags,
        },
        ...{ impulseHashes: receipt.impulses, cover: receipt.cover, madeAt: receipt.made.at },
      },
      await readImpulses(namedFiles(given.impulses), source.sampleRate),
      { input: mix, output: part, scratch: `${part}.raw`, cover: given.cover },
    );
    return again.file.sha256 === receipt.file.sha256 ? [] : ['Made again from the mix, the file has other bits.'];
  } finally {
    await rm(part, { force: true });
  }
}

// verify RECEIPT FILE: says whether a receipt is true of a file, and with its mix, whether the file comes of that.
await runCommand(async () => {
  const { positionals, values } = parseArgs({
    allowPositionals: true,
    options: {
      mix: { type: 'string' },
      cover: { type: 'string' },
      key: { type: 'string' },
      impulse: { type: 'string', multiple: true, default: [] },
    },
  });
  if (positionals.length !== 2) throw new Error(`Usage: ${USAGE}`);
  const [name, file] = positionals;
  const saved = await readJson(name, 'a receipt');
  const checked = receiptSchema.safeParse(saved);
  if (!checked.success) throw new Error(`${name} is not a receipt of ours, or was changed.`);
  const { against, words } = signature(saved as Record<string, unknown>, checked.data, values.key);
  against.push(...(await differences(checked.data, existing(file))));
  if (values.mix !== undefined) {
    const given = { impulses: values.impulse, cover: values.cover };
    against.push(...(await madeAgain(checked.data, existing(values.mix), given)));
  }
  const made = values.mix === undefined ? '' : ', and made again from the mix it has the same bits';
  process.stdout.write(
    against.length === 0
      ? printable(`The receipt is true: the file is what it says${made}.${words}\n`)
      : printable(`${against.join('\n')}\n`),
  );
  if (against.length > 0) process.exitCode = FALSE;
});
