import { z } from 'zod';
import { figure } from '../measure/figure';
import { reading, readingWords, type ReadingKind } from '../measure/reading';
import { deliveredWordLength, type Destination } from './destination';
import { encodeName, sameEncode } from './encode';
import type { Facts } from './facts';
import { FORMAT_TRAITS, storedBits } from './format';
import { TAG_TITLES } from './tags';
import { truePeakExcessDb } from './true-peak-limit';

/** Whether something meets a requirement. Receipts of earlier releases say `passes`. */
export const standingSchema = z.preprocess(
  (saved) => (saved === 'passes' ? 'meets' : saved),
  z.enum(['meets', 'misses', 'unknown']),
);
export type Standing = z.infer<typeof standingSchema>;

/** One requirement of a destination, held against a measurement. */
export const requirementSchema = z.object({
  title: z.string(),
  standing: standingSchema,
  /** Advice is told; it decides nothing. */
  advice: z.boolean().default(false),
  /** The measured value as it is shown. */
  measured: z.string(),
  /** What is required, as it is shown. */
  asked: z.string(),
  /** By how much it misses, in words; empty when it meets. */
  miss: z.string(),
  reason: z.string().default(''),
  source: z.string().default(''),
});
export type Requirement = z.infer<typeof requirementSchema>;

type Found = Omit<Requirement, 'advice' | 'reason' | 'source'>;

/** What a figure reads as when it is shown to one decimal: that decides. */
const shown = (value: number) => Math.round(value * 10) / 10;
const words = (kind: ReadingKind, value: number) => readingWords(reading(kind, value));
export const showRate = (hertz: number) => `${hertz / 1000} kHz`;

/** What holds or does not, with the words for both. */
function found(title: string, meets: boolean, measured: string, asked: string, miss: string): Found {
  return { title, standing: meets ? 'meets' : 'misses', measured, asked, miss: meets ? '' : miss };
}

function unknown(title: string, asked: string, measured = 'not measured yet'): Found {
  return { title, standing: 'unknown', measured, asked, miss: 'can’t be told yet' };
}

/** What is too short or too quiet to be measured. */
function unmeasurable(title: string, asked: string): Found {
  return { ...unknown(title, asked, 'too short or too quiet'), miss: 'can’t be measured' };
}

/** A figure that may be at most so much. */
function atMost(
  title: string,
  kind: ReadingKind,
  value: number | undefined,
  max: number,
  miss: (by: string) => string,
) {
  const asked = `≤ ${words(kind, max)}`;
  if (value === undefined) return unknown(title, asked);
  if (value === -Infinity) return unmeasurable(title, asked);
  return found(title, shown(value) <= max + 1e-9, words(kind, value), asked, miss(figure(value - max)));
}

function loudness({ integratedLufs }: Facts, asked: NonNullable<Destination['loudness']>): Found {
  if (asked.rule === 'maximum')
    return atMost('Loudness', 'loudness', integratedLufs, asked.lufs, (by) => `${by} LU too loud`);
  const wanted = `${words('loudness', asked.lufs)} ±${asked.toleranceLu}`;
  if (integratedLufs === -Infinity) return unmeasurable('Loudness', wanted);
  const difference = integratedLufs - asked.lufs;
  return found(
    'Loudness',
    Math.abs(shown(difference)) <= asked.toleranceLu + 1e-9,
    words('loudness', integratedLufs),
    wanted,
    `${figure(Math.abs(difference))} LU too ${difference > 0 ? 'loud' : 'quiet'}`,
  );
}

function plr({ truePeakDbtp, integratedLufs }: Facts, minLu: number): Found {
  const asked = `≥ ${words('loudnessDifference', minLu)}`;
  const value = truePeakDbtp - integratedLufs;
  if (!Number.isFinite(value)) return unmeasurable('PLR', asked);
  const short = figure(minLu - value);
  return found(
    'PLR',
    shown(value) >= minLu - 1e-9,
    words('loudnessDifference', value),
    asked,
    `${short} LU too little`,
  );
}

function truePeak(title: string, truePeakDbtp: number | undefined, maxDbtp: number): Found {
  const asked = `≤ ${words('truePeak', maxDbtp)}`;
  if (truePeakDbtp === undefined) return unknown(title, asked);
  const excess = truePeakExcessDb(truePeakDbtp, maxDbtp);
  return found(
    title,
    excess <= 0,
    words('truePeak', truePeakDbtp),
    asked,
    `${figure(truePeakDbtp - maxDbtp)} dB too high`,
  );
}

function sampleRate({ mix, file }: Facts, { sampleRate: asked }: Destination): Found | null {
  const title = 'Sample rate';
  if (asked.rule === 'minimum') {
    const rate = file?.sampleRate ?? mix.sampleRate;
    const wanted = `≥ ${showRate(asked.hertz)}, the mix’s own`;
    if (mix.sampleRate < asked.hertz)
      return found(title, false, showRate(mix.sampleRate), wanted, `the mix has ${showRate(mix.sampleRate)} only`);
    return found(title, rate === mix.sampleRate, showRate(rate), wanted, `must be ${showRate(mix.sampleRate)}`);
  }
  if (asked.rule === 'mix') {
    // A listening copy may have less than its mix; whether it is right was decided when it was made.
    if (!file) return null;
    const meets = file.sampleRate <= mix.sampleRate;
    return found(title, meets, showRate(file.sampleRate), 'the mix’s own', `the mix has ${showRate(mix.sampleRate)}`);
  }
  const wanted = showRate(asked.hertz);
  if (!asked.upsampling && mix.sampleRate < asked.hertz)
    return found(
      title,
      false,
      showRate(mix.sampleRate),
      `${wanted}, never upsampled`,
      `the mix has ${showRate(mix.sampleRate)} only`,
    );
  const rate = file?.sampleRate ?? asked.hertz;
  return found(title, rate === asked.hertz, showRate(rate), wanted, `must be ${wanted}`);
}

function wordLength({ file }: Facts, destination: Destination): Found | null {
  const bits = deliveredWordLength(destination);
  if (bits === null) return null;
  const kept = file?.bits ?? storedBits(bits);
  const used = file === null ? bits : Math.min(kept, file.bitsUsed ?? Infinity);
  const meets = kept === storedBits(bits) && used <= bits;
  return found(
    'Word length',
    meets,
    `${meets ? bits : Math.max(kept === storedBits(bits) ? used : kept)} bits`,
    `${bits} bits`,
    `must be ${bits} bits`,
  );
}

/** A mix whose word length was reduced before gets a second dither, and keeps the noise of the first. */
function reducedOnce({ mix }: Facts): Found {
  const { bitsUsed } = mix;
  const full = bitsUsed === null || bitsUsed === 0 || bitsUsed >= 24;
  return found(
    'Mix',
    full,
    full ? 'full word length' : `${bitsUsed} bits`,
    'not reduced before',
    `was already reduced to ${bitsUsed} bits`,
  );
}

function format({ file }: Facts, { format: asked }: Destination): Found | null {
  if (!file) return null;
  const name = file.format ?? 'another format';
  return found('Format', file.format === asked.name, name, asked.name, `must be ${asked.name}`);
}

/** Seconds that must lie between two. */
function within(
  title: string,
  value: number | undefined,
  { minSeconds, maxSeconds }: { minSeconds: number; maxSeconds: number },
  [short, long]: readonly [short: string, long: string],
): Found {
  const asked = `${figure(minSeconds, 1)} to ${figure(maxSeconds, 1)} s`;
  if (value === undefined) return unknown(title, asked);
  // To the millisecond: a track that lasts as long as it must is long enough.
  const ms = Math.round(value * 1000) / 1000;
  const miss =
    ms < minSeconds ? `${figure(minSeconds - ms, 1)} s too ${short}` : `${figure(ms - maxSeconds, 1)} s too ${long}`;
  return found(title, ms >= minSeconds && ms <= maxSeconds, `${figure(ms, 1)} s`, asked, miss);
}

function tags({ tags: present }: Facts, required: readonly (keyof typeof TAG_TITLES)[]): Found {
  const asked = required.map((name) => TAG_TITLES[name]).join(', ');
  if (present === undefined) return unknown('Tags', asked);
  const missing = required.filter((name) => !present[name]).map((name) => TAG_TITLES[name]);
  return found(
    'Tags',
    missing.length === 0,
    missing.length === 0 ? 'all there' : 'incomplete',
    asked,
    `no ${missing.join(', ')}`,
  );
}

/** Limits of advice for a lacquer (common practice, no source): cutting engineers decide by the side at hand. */
const CUTTING_LIMITS = { bassSideDb: -12, sideDbfs: -12, sibilanceDbfs: -18 } as const;

function cutting({ cutting: measured }: Facts): Found[] {
  const limits = CUTTING_LIMITS;
  const side = (title: string, kind: ReadingKind, value: number | undefined, max: number, miss: string) => {
    const asked = `≤ ${words(kind, max)}`;
    return value === undefined
      ? unknown(title, asked, 'measured of the file')
      : found(title, value <= max, value === -Infinity ? 'none' : words(kind, value), asked, miss);
  };
  return [
    side(
      'Bass in the side',
      'level',
      measured?.bassSideDb,
      limits.bassSideDb,
      'much bass outside the middle: make it mono',
    ),
    side('Side', 'samplePeak', measured?.sideDbfs, limits.sideDbfs, 'wide and loud: the groove gets deep and short'),
    side(
      'Sibilance',
      'samplePeak',
      measured?.sibilanceDbfs,
      limits.sibilanceDbfs,
      'sharp: it distorts towards the middle of a side',
    ),
  ];
}

/** Everything that a destination requires, held against what is known, in the order in which it is told. */
export function requirementsOf(destination: Destination, facts: Facts): Requirement[] {
  const all: Requirement[] = [];
  const add = (each: Found | null, { reason, source }: { reason: string; source: string }, advice = false) => {
    if (each) all.push({ ...each, advice, reason, source: source || destination.source });
  };
  const d = destination;
  if (d.loudness) add(loudness(facts, d.loudness), d.loudness);
  const tooLoud = (by: string) => `${by} LU too loud`;
  if (d.momentary)
    add(atMost('Momentary', 'loudness', facts.maxMomentaryLufs, d.momentary.maxLufs, tooLoud), d.momentary);
  if (d.shortTerm)
    add(atMost('Short-term', 'loudness', facts.maxShortTermLufs, d.shortTerm.maxLufs, tooLoud), d.shortTerm);
  if (d.range)
    add(
      atMost('Loudness range', 'loudnessDifference', facts.rangeLu, d.range.maxLu, (by) => `${by} LU too wide`),
      d.range,
    );
  if (d.plr) add(plr(facts, d.plr.minLu), d.plr);
  add(truePeak('True peak', facts.truePeakDbtp, d.truePeak.maxDbtp), d.truePeak);
  for (const { maxDbtp, codec, kbps, ...grounds } of d.encodes) {
    const encode = { codec, kbps };
    const measured = facts.encodes?.find((each) => sameEncode(each, encode));
    add(truePeak(`True peak in ${encodeName(encode)}`, measured?.truePeakDbtp, maxDbtp), grounds);
  }
  add(sampleRate(facts, d), d.sampleRate);
  add(wordLength(facts, d), d.wordLength);
  if (d.wordLength.reducedOnce && FORMAT_TRAITS[d.format.name].lossless) add(reducedOnce(facts), d.wordLength);
  add(format(facts, d), d.format);
  if (d.duration) add(within('Duration', facts.durationSeconds, d.duration, ['short', 'long']), d.duration);
  if (d.silence) {
    const lengths = ['little', 'much'] as const;
    add(within('Silence at the head', facts.headSeconds, d.silence.head, lengths), d.silence);
    add(within('Silence at the tail', facts.tailSeconds, d.silence.tail, lengths), d.silence);
  }
  if (d.tags && d.tags.required.length > 0) add(tags(facts, d.tags.required), d.tags);
  if (d.cutting) for (const each of cutting(facts)) add(each, d.cutting, true);
  return all;
}
