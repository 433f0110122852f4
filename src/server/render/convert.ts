import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { asFloat64, whole } from '../codecs/decode';
import { start } from '../codecs/process';
import { asBytes } from './raw';

/** Sample-rate conversion by soxr at its highest precision. */
export async function* converted(
  input: AsyncIterable<Float64Array>,
  from: number,
  to: number,
): AsyncGenerator<Float64Array> {
  const raw = ['-f', 'f64le', '-ac', '2'];
  const filter = `aresample=${to}:resampler=soxr:precision=33:osf=dbl`;
  const { child, finished } = start('ffmpeg', [
    ...raw,
    '-ar',
    String(from),
    '-i',
    'pipe:0',
    '-af',
    filter,
    ...raw,
    '-ar',
    String(to),
    '-',
  ]);
  const feeding = pipeline(Readable.from(asBytes(input)), child.stdin);
  feeding.catch(() => child.kill('SIGKILL'));
  try {
    for await (const bytes of whole(child.stdout, 16)) yield asFloat64(bytes);
    await feeding;
    await finished;
  } finally {
    child.kill('SIGKILL');
  }
}
