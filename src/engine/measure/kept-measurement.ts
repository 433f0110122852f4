import { decode, encode, ExtensionCodec } from '@msgpack/msgpack';
import { z } from 'zod';
import type { Lane } from '../../core/lane/schema';
import { CORE_VERSION } from '../../core/version';
import type { Measurement } from './measurement';
import { laneKey } from './queue';

/** Version of the form in which a measurement is kept; those of an older one are computed again. */
const FORM = 3;
/** The largest kept measurement in bytes; those of longer programmes are not kept. */
export const MOST_KEPT_BYTES = 24 * 1024 * 1024;
/** More stages than a lane can have. */
const MOST_STAGES = 64;

/** A measurement under the hash of what decided it. */
export interface KeptMeasurement {
  key: string;
  measurement: Measurement;
}

/** What decides a measurement: the mix, what sounds of the lane, and the core's version. 64 hexadecimal digits. */
export async function measurementKey(mixId: string, lane: Lane): Promise<string> {
  const decisive = new TextEncoder().encode(JSON.stringify([FORM, CORE_VERSION, mixId, laneKey(lane)]));
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', decisive));
  return Array.from(digest, (byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** Type of the extension that holds 32-bit floats, little-endian. */
const FLOATS = 1;
const codec = new ExtensionCodec();
codec.register({
  type: FLOATS,
  encode: (value) =>
    value instanceof Float32Array ? new Uint8Array(value.buffer, value.byteOffset, value.byteLength) : null,
  decode: (bytes) => {
    if (bytes.length % 4 !== 0) throw new Error('A series of floats is cut off.');
    // A copy of their own: floats must be aligned, and a view of a Node buffer keeps the whole buffer.
    return new Float32Array(Uint8Array.from(bytes).buffer);
  },
});

const floats = z.instanceof(Float32Array);
/** Levels may be infinite. */
const level = z.custom<number>((value) => typeof value === 'number' && !Number.isNaN(value), 'A level is missing.');
const channels = z.tuple([level, level]);
const joint = { integratedLufs: level, samplePeakDbfs: level, truePeakDbtp: level };
const programme = z.object({
  ...joint,
  maxMomentaryLufs: level,
  maxShortTermLufs: level,
  rangeLu: level,
  plrLu: level,
  samplePeaksDbfs: channels,
  truePeaksDbtp: channels,
  momentary: floats,
  shortTerm: floats,
  picture: floats,
  overs: floats,
});
const beforeAndAfter = z.object({ before: floats, after: floats });
const image = z.object({ correlation: floats, bands: z.array(floats).max(16), foldDownLu: level });
const distortion = z.object({
  touched: floats.nullable(),
  added: z
    .object({
      totalDb: level,
      lowDb: level,
      bands: z.array(z.object({ hz: level, programmeDbfs: level, distortionDbfs: level })).max(64),
      barest: z.object({ hz: level, db: level }).nullable(),
    })
    .nullable(),
  excerpt: z.object({ seconds: level, before: floats, after: floats }),
  tips: z.object({ count: level, longestFrames: level, highest: z.array(beforeAndAfter).max(64) }).nullable(),
});
const eachStage = <T extends z.ZodType>(what: T) => z.array(what.nullable()).max(MOST_STAGES);
const measurementSchema: z.ZodType<Measurement> = z
  .object({
    joints: z
      .array(z.object(joint))
      .min(1)
      .max(MOST_STAGES + 1),
    mix: programme,
    master: programme,
    gainReduction: eachStage(floats),
    bandReduction: eachStage(z.array(floats).max(16)),
    latencies: z.array(z.number()).max(MOST_STAGES + 1),
    distortions: eachStage(distortion),
    images: eachStage(z.object({ before: image, after: image })),
    peaks: eachStage(beforeAndAfter),
    bandLevels: eachStage(z.array(floats).max(16)),
    spectra: eachStage(beforeAndAfter),
    passageBalance: z
      .array(z.object({ levelDbfs: level, sideDb: level, correlation: z.number() }))
      .max(64)
      .nullable(),
  })
  .refine(
    ({ joints, latencies, mix: _mix, master: _master, passageBalance: _balance, ...stages }) =>
      latencies.length === joints.length && Object.values(stages).every(({ length }) => length === joints.length - 1),
    'The stages of the measurement do not match its joints.',
  );
const keptSchema = z.object({ key: z.string().regex(/^[0-9a-f]{64}$/), measurement: measurementSchema });

/** A measurement as bytes (MessagePack); null when there are too many to keep. */
export function packMeasurement({ key, measurement }: KeptMeasurement): Uint8Array<ArrayBuffer> | null {
  // A parse leaves out the rendered samples, which are not kept.
  const bytes = encode({ key, measurement: measurementSchema.parse(measurement) }, { extensionCodec: codec });
  return bytes.length <= MOST_KEPT_BYTES ? bytes : null;
}

/** A measurement from its bytes. Throws an Error when they are not those of one. */
export function unpackMeasurement(bytes: Uint8Array): KeptMeasurement {
  if (bytes.length > MOST_KEPT_BYTES) throw new Error('The measurement is too large.');
  return keptSchema.parse(decode(bytes, { extensionCodec: codec }));
}
