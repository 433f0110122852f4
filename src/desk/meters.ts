import { run } from './program';

/** What ffmpeg's meters read of a file; −∞ is null. */
export interface Meters {
  loudness: number | null;
  momentary: number | null;
  shortTerm: number | null;
  range: number;
  truePeak: number | null;
  silence: { head: number; tail: number };
  /** What the decoder complained about. */
  complaints: string[];
}

/** Silence, as the desk hears it. */
const SILENT_DB = -90;
/** Silence is told from this on, and reaches the end when it stops within this of it. */
const SHORTEST_SILENCE = 0.05;

function figure(text: string | undefined): number | null {
  const value = Number(text);
  return text === undefined || !Number.isFinite(value) || value <= -70 ? null : value;
}

function highest(out: string, key: string): number | null {
  let most: number | null = null;
  for (const [, text] of out.matchAll(new RegExp(`lavfi\\.r128\\.${key}=(\\S+)`, 'g'))) {
    const value = figure(text);
    if (value !== null && (most === null || value > most)) most = value;
  }
  return most;
}

function silenceOf(said: string, seconds: number): Meters['silence'] {
  const starts = [...said.matchAll(/silence_start: (\S+)/g)].map(([, at]) => Number(at));
  const ends = [...said.matchAll(/silence_end: (\S+)/g)].map(([, at]) => Number(at));
  const last = starts.at(-1);
  const openEnd = last !== undefined && (starts.length > ends.length || ends[ends.length - 1] > seconds - 0.001);
  return {
    head: starts.length > 0 && starts[0] <= 0.001 ? (ends[0] ?? seconds) : 0,
    tail: openEnd ? seconds - last : 0,
  };
}

/** Measures a file that a demuxer of ffmpeg reads; `seconds` is its length. */
export async function readMeters(demuxer: string, path: string, seconds: number): Promise<Meters> {
  const filters = `silencedetect=noise=${SILENT_DB}dB:d=${SHORTEST_SILENCE},ebur128=peak=true:metadata=1,ametadata=mode=print:file=-`;
  const { out, errors } = await run('ffmpeg', [
    ...['-hide_banner', '-nostdin', '-protocol_whitelist', 'file,pipe', '-f', demuxer, '-i', `file:${path}`],
    ...['-map', '0:a:0', '-af', filters, '-f', 'null', '-'],
  ]);
  const summary = errors.slice(errors.lastIndexOf('Summary:'));
  return {
    loudness: figure(/I:\s+(\S+) LUFS/.exec(summary)?.[1]),
    momentary: highest(out, 'M'),
    shortTerm: highest(out, 'S'),
    range: Number(/LRA:\s+(\S+) LU/.exec(summary)?.[1] ?? 0),
    truePeak: figure(/Peak:\s+(\S+) dBFS/.exec(summary)?.[1]),
    silence: silenceOf(errors, seconds),
    complaints: [...errors.matchAll(/^.*(?:Error|Invalid|invalid|error).*$/gm)].map(([line]) => line),
  };
}
