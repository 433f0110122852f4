import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { z } from 'zod';
import { readMeters, type Meters } from './meters';
import { run } from './program';
import type { Answer, Slip } from './slip';
import { readWavChunks } from './wav-chunks';

/** ffmpeg's demuxer and the codecs that each kind of file may have. */
const KINDS: Record<Slip['container'], { demuxer: string; words: string; codecs: RegExp }> = {
  wav: { demuxer: 'wav', words: 'a WAV file', codecs: /^pcm_(s16|s24)le$/ },
  bwf: { demuxer: 'wav', words: 'a Broadcast WAV file', codecs: /^pcm_(s16|s24)le$/ },
  flac: { demuxer: 'flac', words: 'a FLAC file', codecs: /^flac$/ },
  aiff: { demuxer: 'aiff', words: 'an AIFF file', codecs: /^pcm_(s16|s24)be$/ },
  alac: { demuxer: 'mov', words: 'an Apple Lossless file', codecs: /^alac$/ },
  mp3: { demuxer: 'mp3', words: 'an MP3 file', codecs: /^mp3(float)?$/ },
  aac: { demuxer: 'mov', words: 'an AAC file', codecs: /^aac$/ },
};

/** The desk's meters differ from others by this much: EBU Tech 3341 allows 0.1 LU, and 0.3 dB for true peaks. */
const LOUDNESS_LU = 0.1;
const TRUE_PEAK_DB = 0.3;
/** Lengths are compared with one video frame to spare. */
const LENGTH_SECONDS = 0.04;

const probed = z.object({
  streams: z.array(
    z.object({
      codec_type: z.string(),
      codec_name: z.string().default('unknown'),
      channels: z.coerce.number().default(0),
      sample_rate: z.coerce.number().default(0),
      bits_per_sample: z.coerce.number().default(0),
      bits_per_raw_sample: z.coerce.number().default(0),
      duration: z.coerce.number().default(0),
      tags: z.record(z.string(), z.string()).default({}),
    }),
  ),
  format: z.object({ tags: z.record(z.string(), z.string()).default({}) }),
});

const show = (value: number) => value.toFixed(2).replace('-', '−');

function refused(...reasons: string[]): Answer {
  return { accepted: false, reasons, measured: null };
}

async function sha256Of(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash);
  return hash.digest('hex');
}

/** Whatever stands against a figure: too high, too low, or not there. */
function outside(
  what: string,
  unit: string,
  value: number | null,
  { lowest = null, highest = null }: { lowest?: number | null; highest?: number | null },
  spare: number,
): string[] {
  if (lowest === null && highest === null) return [];
  if (value === null) return lowest === null ? [] : [`${what} can’t be measured: the file is silent.`];
  if (highest !== null && value > highest + spare)
    return [`${what} is ${show(value)} ${unit}; at most ${show(highest)} was agreed.`];
  if (lowest !== null && value < lowest - spare)
    return [`${what} is ${show(value)} ${unit}; at least ${show(lowest)} was agreed.`];
  return [];
}

function measuredReasons(slip: Slip, meters: Meters, seconds: number): string[] {
  const { loudness, momentary, shortTerm, range, truePeak, silence } = meters;
  const most = (highest: number | null) => ({ highest });
  return [
    ...outside('The loudness', 'LUFS', loudness, slip.loudness, LOUDNESS_LU),
    ...outside('The highest momentary loudness', 'LUFS', momentary, most(slip.highestMomentary), LOUDNESS_LU),
    ...outside('The highest short-term loudness', 'LUFS', shortTerm, most(slip.highestShortTerm), LOUDNESS_LU),
    ...outside('The loudness range', 'LU', range, most(slip.widestRange), LOUDNESS_LU),
    ...outside('The true peak', 'dBTP', truePeak, most(slip.highestTruePeak), TRUE_PEAK_DB),
    ...outside('The length', 's', seconds, { lowest: slip.shortest, highest: slip.longest }, LENGTH_SECONDS),
    ...outside('The silence at the head', 's', silence.head, most(slip.longestSilence.head), LENGTH_SECONDS),
    ...outside('The silence at the tail', 's', silence.tail, most(slip.longestSilence.tail), LENGTH_SECONDS),
  ];
}

function tagReasons(asked: Slip['tags'], found: Record<string, string>): string[] {
  // ffprobe writes names as the file has them; ID3 calls the ISRC by its frame.
  const byName = new Map(Object.entries(found).map(([name, text]) => [name.toLowerCase(), text]));
  return Object.entries(asked).flatMap(([name, text]) => {
    const there = byName.get(name) ?? (name === 'isrc' ? byName.get('tsrc') : undefined);
    if (there === undefined) return [`The file has no ${name}.`];
    return there === text ? [] : [`Its ${name} is “${there}”, not “${text}” as on the slip.`];
  });
}

async function formReasons(slip: Slip, path: string, meters: Meters): Promise<string[]> {
  if (slip.container === 'flac') {
    const { status, errors } = await run('flac', ['--test', '--silent', path]);
    return status === 0 ? [] : [`flac -t finds it damaged: ${errors.trim().split('\n').at(-1)?.slice(-160) ?? ''}`];
  }
  if (slip.container !== 'wav' && slip.container !== 'bwf') return [];
  const { faults, bext } = await readWavChunks(path);
  if (slip.container === 'wav') return faults;
  if (!bext) return [...faults, 'It has no bext chunk.'];
  if (bext.version < 2) return [...faults, `Its bext chunk is of version ${bext.version}; 2 carries the loudness.`];
  const reasons = [...faults];
  if (meters.loudness !== null && Math.abs(bext.loudness - meters.loudness) > 2 * LOUDNESS_LU)
    reasons.push(`Its bext chunk says ${show(bext.loudness)} LUFS; it measures ${show(meters.loudness)}.`);
  if (meters.truePeak !== null && Math.abs(bext.maxTruePeak - meters.truePeak) > 2 * TRUE_PEAK_DB)
    reasons.push(`Its bext chunk says ${show(bext.maxTruePeak)} dBTP; it measures ${show(meters.truePeak)}.`);
  return reasons;
}

/** Looks at a file as whoever receives it would, with nothing of what made it. */
export async function examine(path: string, slip: Slip): Promise<Answer> {
  if (!/^[^/\\\p{Cc}]+$/u.test(slip.name) || /^\.|[. ]$/.test(slip.name))
    return refused(`The name “${slip.name.replace(/\p{Cc}/gu, '?')}” can’t be used for a file.`);
  if ((await stat(path)).size === 0) return refused('The file is empty.');
  if ((await sha256Of(path)) !== slip.sha256)
    return refused('The checksum is not that of the slip: the file was changed on its way.');
  const { demuxer, words, codecs } = KINDS[slip.container];
  const input = ['-protocol_whitelist', 'file', '-f', demuxer, '-i', `file:${path}`];
  const { status, out } = await run('ffprobe', [
    ...['-v', 'error', ...input, '-show_streams', '-show_format', '-of', 'json'],
  ]);
  const parsed = status === 0 ? probed.safeParse(JSON.parse(out)) : null;
  const stream = parsed?.data?.streams.find(({ codec_type }) => codec_type === 'audio');
  if (!parsed?.data || !stream) return refused(`It is not ${words}.`);
  const { codec_name: codec, channels, sample_rate: rate, duration } = stream;
  if (!codecs.test(codec)) return refused(`It is not ${words} as agreed: its samples are ${codec}.`);
  const reasons: string[] = [];
  if (channels !== 2) reasons.push(`It has ${channels} channels; two were agreed.`);
  if (slip.sampleRate !== null && rate !== slip.sampleRate)
    reasons.push(`Its sample rate is ${rate} Hz; ${slip.sampleRate} was agreed.`);
  if (slip.lowestSampleRate !== null && rate < slip.lowestSampleRate)
    reasons.push(`Its sample rate is ${rate} Hz; at least ${slip.lowestSampleRate} was agreed.`);
  const bits = stream.bits_per_raw_sample || stream.bits_per_sample;
  const carried = slip.bits === 20 ? 24 : slip.bits;
  if (carried !== null && bits !== carried) reasons.push(`Its samples have ${bits} bits; ${carried} were agreed.`);
  const meters = await readMeters(demuxer, path, duration);
  if (meters.complaints.length > 0) reasons.push(`It can’t be decoded cleanly: ${meters.complaints[0].slice(-160)}`);
  reasons.push(...(await formReasons(slip, path, meters)));
  reasons.push(...measuredReasons(slip, meters, duration));
  reasons.push(...tagReasons(slip.tags, { ...parsed.data.format.tags, ...stream.tags }));
  const { complaints: _, ...measured } = meters;
  return { accepted: reasons.length === 0, reasons, measured };
}
