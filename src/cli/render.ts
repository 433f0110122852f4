import { randomUUID } from 'node:crypto';
import { rename, rm } from 'node:fs/promises';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { DITHERS } from '../core/deliver/dither';
import { EMPTY_LANE, type Lane, type Stage } from '../core/lane/schema';
import { traitsOf } from '../core/stages/registry';
import { probe } from '../server/codecs/probe';
import { render } from '../server/render/render';
import { existing, runCommand } from './command';
import { namedFiles, readImpulses, readLane } from './inputs';

const USAGE =
  'npm run --silent render -- IN OUT --lane LANE.json [--impulse NAME=FILE.wav] [--depth 16|20|24|32f] [--dither DITHER] [--rate HZ] [--clip]';
const DEPTHS = { '16': 16, '20': 20, '24': 24, '32f': '32f' } as const;
const MIN_RATE = 8000;
const MAX_RATE = 384000;

/** The ceiling of the lane's last limiter holds at the delivered rate too; without one nothing is guarded. */
function ceiling(lane: Lane): number | null {
  const ceilings = lane.stages.flatMap((stage) =>
    stage.on ? (traitsOf<Stage>(stage).ceilingDb?.(stage.settings) ?? []) : [],
  );
  return ceilings.at(-1) ?? null;
}

// render IN OUT: renders a file through a lane as a delivery does. Writes OUT whole or not at all.
await runCommand(async () => {
  const { positionals, values } = parseArgs({
    allowPositionals: true,
    options: {
      lane: { type: 'string' },
      impulse: { type: 'string', multiple: true, default: [] },
      depth: { type: 'string', default: '24' },
      dither: { type: 'string', default: 'TPDF' },
      rate: { type: 'string' },
      clip: { type: 'boolean' },
    },
  });
  if (positionals.length !== 2) throw new Error(`Usage: ${USAGE}`);
  const [input, output] = [existing(positionals[0]), path.resolve(positionals[1])];
  const extension = path.extname(output).slice(1).toLowerCase();
  const format = ({ wav: 'WAV', flac: 'FLAC', aiff: 'AIFF' } as const)[extension];
  if (!format) throw new Error('The output must end in .wav, .flac or .aiff.');
  if (!Object.hasOwn(DEPTHS, values.depth))
    throw new Error(`The depth must be 16, 20, 24 or 32f, not ${values.depth}.`);
  const depth = DEPTHS[values.depth as keyof typeof DEPTHS];
  const dither = DITHERS.find((each) => each === values.dither);
  if (!dither) throw new Error(`The dither must be ${DITHERS.join(', ')}, not ${values.dither}.`);
  const lane = values.lane === undefined ? EMPTY_LANE : await readLane(values.lane);
  const source = await probe(input);
  const impulses = await readImpulses(namedFiles(values.impulse), source.sampleRate);
  const outputRate = values.rate === undefined ? source.sampleRate : Number(values.rate);
  if (!Number.isInteger(outputRate) || outputRate < MIN_RATE || outputRate > MAX_RATE) {
    throw new Error(`The rate must be a whole number of Hz from ${MIN_RATE} to ${MAX_RATE}, not ${values.rate}.`);
  }
  const part = `${output}.${randomUUID()}.part`;
  try {
    await render({
      input,
      channels: source.channels,
      inputRate: source.sampleRate,
      inputBits: source.float ? 32 : source.bits,
      frames: Math.round(source.durationSeconds * source.sampleRate),
      lane,
      impulses,
      levelDb: 0,
      outputRate,
      depth,
      dither,
      format,
      guardDbtp: outputRate === source.sampleRate ? null : ceiling(lane),
      output: part,
      scratch: `${part}.raw`,
      clip: values.clip,
      onProgress: () => {},
    });
    await rename(part, output);
  } finally {
    await rm(part, { force: true });
  }
});
