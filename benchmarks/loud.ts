import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { OVERSAMPLING_FACTORS } from '../src/core/stages/oversampler';
import { nearestChain, REFERENCE_LANE } from './core';
import { lanes, RUNS, SECONDS, type Material } from './material';
import { ffmpeg, medianMs, medianMsOfBoth, print, type Row } from './support';

const SATURATION = {
  kind: 'saturation',
  settings: { driveDb: 6, oversampling: { listening: 4, delivery: 4 } },
};
const CLIPPER = {
  kind: 'clipper',
  settings: { curve: 'smooth', inputGainDb: 4, ceilingDbfs: -3, oversampling: { listening: 8, delivery: 8 } },
};
const LIMITER = { kind: 'limiter', settings: { inputGainDb: 8 } };

/** The reference lane of the shaping stages with a loud end in place of its limiter alone. */
const LOUD_LANE = lanes(...REFERENCE_LANE.stages.slice(0, -1), SATURATION, CLIPPER, LIMITER);

const finest = (stage: typeof SATURATION | typeof CLIPPER) => ({
  ...stage,
  settings: { ...stage.settings, oversampling: { listening: 16, delivery: 16 } },
});

/** The same with the finest oversampling there is. */
export const FINEST_LOUD_LANE = lanes(
  ...REFERENCE_LANE.stages.slice(0, -1),
  finest(SATURATION),
  finest(CLIPPER),
  LIMITER,
);

/** Nanoseconds per frame of the plain C loops; null where there is no compiler. */
function loops({ folder, raw }: Material): Record<'saturation' | 'clipper' | 'limiter', number> | null {
  const program = path.join(folder, 'loops');
  const source = path.join(import.meta.dirname, 'loops.c');
  const built = spawnSync('cc', ['-O3', '-march=native', '-o', program, source, '-lm'], { encoding: 'utf8' });
  if (built.error) return null;
  if (built.status !== 0) throw new Error(built.stderr);
  const { status, stdout } = spawnSync(program, [raw], { encoding: 'utf8' });
  if (status !== 0) throw new Error('The C loops could not read the music.');
  return JSON.parse(stdout) as Record<'saturation' | 'clipper' | 'limiter', number>;
}

/** Speed of the stages that distort, and of the whole loud lane against ffmpeg on the same file. */
export async function benchLoud(material: Material): Promise<void> {
  const { file, decoding, lane, speed, perFrame, nanoseconds } = material;
  const chain = nearestChain('asoftclip=type=atan:oversample=4,asoftclip=type=cubic:oversample=8,');
  const [loud, whole] = await medianMsOfBoth(RUNS, lane(LOUD_LANE, SECONDS * 100 + 1), () =>
    ffmpeg(file, chain, '-filter_complex'),
  );
  const nearest = whole - decoding;
  print('The loud lane on the same mix, one thread', [
    { what: 'lane with the meters of all joints', figure: speed(loud), aim: 'at least 60 ×' },
    { what: 'ffmpeg’s nearest chain with its meter, decoding taken off', figure: speed(nearest) },
    { what: 'ratio', figure: `${(nearest / loud).toFixed(1)} × as fast`, aim: 'at least 5' },
  ]);

  const empty = await medianMs(RUNS, lane(lanes(), 0));
  const alone = async (stage: unknown) => (await medianMs(RUNS, lane(lanes(stage), 0))) - empty;
  const c = loops(material);
  const rows: Row[] = [];
  for (const [what, stage, loop] of [
    ['saturation, 4×', SATURATION, 'saturation'],
    ['clipper, 8×', CLIPPER, 'clipper'],
    ['limiter, 4× detection', LIMITER, 'limiter'],
  ] as const) {
    const ms = await alone(stage);
    rows.push({ what, figure: perFrame(ms) });
    if (!c) continue;
    const ratio = nanoseconds(ms) / c[loop];
    rows.push({ what: 'the same as a plain loop in C', figure: `${c[loop].toFixed(1)} ns` });
    rows.push({ what: 'time against it', figure: `${ratio.toFixed(2)} ×`, aim: 'at most 2' });
  }
  for (const factor of OVERSAMPLING_FACTORS)
    for (const phase of ['linear', 'least']) {
      // Driven so far that its filters never rest.
      const settings = { inputGainDb: 18, oversampling: { listening: factor, delivery: factor, phase } };
      rows.push({
        what: `clipper, ${factor === 1 ? 'no oversampling' : `${factor}×`}, ${phase === 'linear' ? 'linear phase' : 'least latency'}`,
        figure: perFrame(await alone({ kind: 'clipper', settings })),
      });
    }
  print('Stages that bend the wave, nanoseconds per stereo frame', rows);
}
