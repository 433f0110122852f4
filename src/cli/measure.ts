import { parseArgs } from 'node:util';
import { figureOrNull, channelsInDecibels } from '../core/measure/intake-report';
import { probe } from '../server/codecs/probe';
import { measureFile } from '../server/intake/measure-file';
import { runCommand, existing } from './command';

// measure FILE: prints what the core measures of a file as one JSON object.
await runCommand(async () => {
  const { positionals } = parseArgs({ allowPositionals: true });
  if (positionals.length !== 1) throw new Error('Usage: npm run --silent measure -- FILE');
  const path = existing(positionals[0]);
  const { sampleRate, channels, durationSeconds } = await probe(path);
  const expectedFrames = Math.round(durationSeconds * sampleRate);
  const measured = await measureFile({ path, sampleRate, channels, expectedFrames });
  const result = {
    integratedLufs: figureOrNull(measured.integratedLufs),
    loudnessRangeLu: measured.rangeLu,
    maxMomentaryLufs: figureOrNull(measured.maxMomentaryLufs),
    maxShortTermLufs: figureOrNull(measured.maxShortTermLufs),
    truePeakDbtp: channelsInDecibels(measured.truePeak),
    samplePeakDbfs: channelsInDecibels(measured.samplePeak),
    sampleRate,
    durationSeconds: measured.frames / sampleRate,
  };
  process.stdout.write(`${JSON.stringify(result)}\n`);
});
