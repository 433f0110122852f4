import { numberSetting, settingSchema, withLaneSetting } from '../../lane/stage-edits';
import { stageTitle, type Stage } from '../../lane/schema';
import { figure } from '../../measure/figure';
import { MUCH_REDUCTION_DB } from '../../measure/reduction-summary';
import { traitsOf } from '../../stages/registry';
import { describe } from '../../stages/setting';
import type { Rule } from './observation';

/** Limiters that take so much from the loudest passage that it is heard. */
export const limiting: Rule = ({ lane, loudest, gainReduction, traceFrames, sampleRate }) =>
  lane.stages.flatMap((stage, i) => {
    const drive = stage.on ? traitsOf<Stage>(stage).drive : undefined;
    const trace = gainReduction[i];
    if (drive?.into !== 'ceiling' || !trace) return [];
    const from = loudest ? Math.floor(loudest.start / traceFrames) : 0;
    const to = loudest ? Math.min(trace.length, Math.ceil(loudest.end / traceFrames)) : trace.length;
    let at = from;
    for (let block = from; block < to; block++) if (trace[block] > trace[at]) at = block;
    const taken = trace[at];
    if (!(taken > MUCH_REDUCTION_DB)) return [];
    const less = Math.ceil(10 * (taken - MUCH_REDUCTION_DB)) / 10;
    const gain = Math.round(10 * (numberSetting(stage, drive.setting) - less)) / 10;
    const { min, title } = describe(settingSchema(stage, drive.setting));
    return [
      {
        kind: 'limiting',
        stages: [stage.id],
        sentence: `${stageTitle(stage)} takes up to ${figure(taken)} dB in the loudest passage. Above ${figure(MUCH_REDUCTION_DB, 0)} dB punch goes; ${figure(less)} dB less input keeps it there and costs at most as much loudness.`,
        seconds: (at * traceFrames) / sampleRate,
        remedy:
          gain < min
            ? null
            : {
                label: `${title} ${figure(-less)} dB`,
                apply: (current) => withLaneSetting(current, stage.id, drive.setting, gain),
              },
      },
    ];
  });
