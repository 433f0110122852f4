import { stageTitle } from '../../lane/schema';
import { withStageChanged } from '../../lane/stage-edits';
import { figure } from '../../measure/figure';
import { traitsOf } from '../../stages/registry';
import type { ObservedMaster, Rule } from './observation';

/** Less than this is nothing: of level, gain reduction and balance in dB, and of added distortion against the music. */
const NOTHING_DB = 0.05;
const NO_DISTORTION_DB = -80;
/** Bins below this are not compared, dBFS: between tones there is little to compare. */
const AUDIBLE_DBFS = -90;

/** The most by which two average spectra differ, in dB. */
function mostApart({ before, after }: { before: Float32Array; after: Float32Array }): number {
  let most = 0;
  for (let bin = 1; bin < before.length; bin++)
    if (before[bin] > AUDIBLE_DBFS || after[bin] > AUDIBLE_DBFS)
      most = Math.max(most, Math.abs(after[bin] - before[bin]));
  return most;
}

function changesNothing({ joints, gainReduction, distortions, spectra }: ObservedMaster, i: number): boolean {
  const [before, after] = [joints[i], joints[i + 1]];
  const same = (a: number, b: number) => a === b || Math.abs(a - b) < NOTHING_DB;
  const around = spectra[i];
  return (
    same(before.integratedLufs, after.integratedLufs) &&
    same(before.truePeakDbtp, after.truePeakDbtp) &&
    !(gainReduction[i]?.some((db) => db >= NOTHING_DB) ?? false) &&
    !((distortions[i]?.added?.totalDb ?? -Infinity) > NO_DISTORTION_DB) &&
    (around === null || mostApart(around) < NOTHING_DB)
  );
}

/** Stages that are on and leave the sound as it is; one with a ceiling may stand there for safety. */
export const idle: Rule = (master) =>
  master.lane.stages.flatMap((stage, i) =>
    stage.on && !traitsOf(stage).ceilingDb && changesNothing(master, i)
      ? [
          {
            kind: 'idle',
            stages: [stage.id],
            sentence: `${stageTitle(stage)} is on and changes nothing by more than ${figure(NOTHING_DB, 2)} dB.`,
            seconds: null,
            remedy: {
              label: 'Switch it off',
              apply: (lane) => ({
                ...lane,
                stages: withStageChanged(lane.stages, stage.id, (each) => ({ ...each, on: false })),
              }),
            },
          },
        ]
      : [],
  );
