import { z } from 'zod';
import { Problem } from '../problem';
import { containerOf, type Accepts, type Container } from './container';
import { output } from './process';

/** What a source file is. */
export const sourceSchema = z.object({
  container: z.string(),
  codec: z.string(),
  /** Hz */
  sampleRate: z.number(),
  channels: z.number(),
  /** Word length in bits; of the mantissa's container for float. */
  bits: z.number(),
  float: z.boolean(),
  durationSeconds: z.number(),
});

export type Source = z.infer<typeof sourceSchema>;

const probeSchema = z.object({
  streams: z.array(
    z.object({
      codec_type: z.string(),
      codec_name: z.string().optional(),
      sample_rate: z.coerce.number().optional(),
      channels: z.number().optional(),
      sample_fmt: z.string().optional(),
      bits_per_sample: z.coerce.number().optional(),
      bits_per_raw_sample: z.coerce.number().optional(),
      duration: z.coerce.number().optional(),
      disposition: z.object({ attached_pic: z.number().optional() }).optional(),
    }),
  ),
  format: z.object({ duration: z.coerce.number().optional() }),
});

const LOSSLESS = new Set(['flac', 'alac', 'wavpack']);

/** The refusal of a file that ends too early. */
export const TRUNCATED =
  'The file ends before its own header says it should: the upload or the export was cut off. Export the mix again and upload it again.';

/** The refusal of a file that is longer than a mix may be. */
function tooLong(): Problem {
  return new Problem(422, `The file is longer than ${MAX_MINUTES} minutes, the most a mix can have. Split it.`);
}

const MIN_RATE = 32000;
const MAX_RATE = 384000;
export const MAX_MINUTES = 60;

function isLossless(codec: string): boolean {
  return LOSSLESS.has(codec) || (codec.startsWith('pcm_') && !/law|vidc/.test(codec));
}

type Stream = z.infer<typeof probeSchema>['streams'][number];

/** The one audio stream of a file, and how long it says it is. Throws a Problem (422) with the reason. */
async function streamOf(
  file: string,
  accepts: Accepts,
): Promise<{ container: Container; stream: Stream; durationSeconds: number }> {
  const container = await containerOf(file, accepts);
  if (container.missingBytes > 0) throw new Problem(422, TRUNCATED);
  const args = ['-of', 'json', '-show_streams', '-show_format', ...container.input];
  const text = await output('ffprobe', args).catch(() => null);
  const found = text === null ? null : probeSchema.safeParse(JSON.parse(text));
  if (!found?.success)
    throw new Problem(422, 'This is not a readable audio file. Export the mix as WAV, AIFF or FLAC and try again.');
  const { streams, format } = found.data;
  const audio = streams.filter(({ codec_type }) => codec_type === 'audio');
  if (audio.length === 0)
    throw new Problem(422, 'The file has no audio. Export the mix as WAV, AIFF or FLAC and try again.');
  if (audio.length > 1)
    throw new Problem(422, `The file has ${audio.length} separate audio streams. Export one stereo mix and try again.`);
  const [stream] = audio;
  return { container, stream, durationSeconds: stream.duration ?? format.duration ?? 0 };
}

/** What a reference is. */
export interface ReferenceSource {
  container: string;
  codec: string;
  /** Hz */
  sampleRate: number;
  channels: number;
  durationSeconds: number;
}

const REFERENCE_RATES = [8000, MAX_RATE] as const;

/** What a file is that is only listened to: lossy encodes, too. Throws a Problem (422) with the reason. */
export async function probeReference(file: string): Promise<ReferenceSource> {
  const { container, stream, durationSeconds } = await streamOf(file, 'lossy');
  const { channels = 0, sample_rate: sampleRate = 0, codec_name: codec = 'unknown' } = stream;
  if (channels < 1 || channels > 2)
    throw new Problem(422, `The file has ${channels} channels. Choose a stereo or mono version of it.`);
  if (sampleRate < REFERENCE_RATES[0] || sampleRate > REFERENCE_RATES[1])
    throw new Problem(422, `The sample rate is ${sampleRate / 1000} kHz, which can’t be played. Choose another file.`);
  if (durationSeconds > MAX_MINUTES * 60)
    throw new Problem(422, `The file is longer than ${MAX_MINUTES} minutes. Choose a single piece.`);
  return { container: container.name, codec, sampleRate, channels, durationSeconds };
}

/** What a file is, by its own account. Throws a Problem (422) with the reason when it cannot be a mix. */
export async function probe(file: string): Promise<Source> {
  const { container, stream, durationSeconds } = await streamOf(file, 'lossless');
  const codec = stream.codec_name ?? 'unknown';
  if (!isLossless(codec)) {
    throw new Problem(
      422,
      `The file is a lossy encode (${codec.toUpperCase()}), which mastering can’t repair. Ask for the mix as WAV, AIFF or FLAC.`,
    );
  }
  const channels = stream.channels ?? 0;
  if (channels < 1 || channels > 2) {
    throw new Problem(
      422,
      `The file has ${channels} channels; a mix has two. Export a stereo fold-down and try again.`,
    );
  }
  const sampleRate = stream.sample_rate ?? 0;
  if (sampleRate < MIN_RATE || sampleRate > MAX_RATE) {
    throw new Problem(
      422,
      `The sample rate is ${sampleRate / 1000} kHz; mixes from ${MIN_RATE / 1000} to ${MAX_RATE / 1000} kHz are accepted. Export at the rate the mix was made at.`,
    );
  }
  if (durationSeconds > MAX_MINUTES * 60) throw tooLong();
  if (container.samples) {
    const { codec: name, bits } = container.samples;
    const frames = container.frames ?? 0;
    return {
      container: container.name,
      codec: name,
      sampleRate,
      channels,
      bits,
      float: false,
      durationSeconds: frames / sampleRate,
    };
  }
  const float = /^(flt|dbl)/.test(stream.sample_fmt ?? '');
  const bits = stream.bits_per_raw_sample || stream.bits_per_sample || (stream.sample_fmt?.startsWith('s16') ? 16 : 32);
  return {
    container: container.name,
    codec,
    sampleRate,
    channels,
    bits,
    float,
    durationSeconds,
  };
}
