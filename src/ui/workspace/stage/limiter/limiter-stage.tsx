'use client';

import type { Stage } from '../../../../core/lane/schema';
import { limiterSettings } from '../../../../core/stages/limiter/settings';
import { usePalette } from '../../../theme/use-palette';
import { ReductionHistory } from '../dynamics/reduction-history';
import { Reductions } from '../dynamics/reductions';
import { Key, StageFrame } from '../stage-frame';
import { StageSetting } from '../stage-setting';

const CONTROLS = ['inputGainDb', 'ceilingDbtp', 'lookAheadMs', 'recoveryMs'] as const;
/** Ceiling, drive, and what the gain does about them. */
export function LimiterStage({ stage, index }: { stage: Extract<Stage, { kind: 'limiter' }>; index: number }) {
  const palette = usePalette();
  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={<Key color={palette.ink}>gain reduction, with its peaks held</Key>}
      picture={<ReductionHistory index={index} idle="The limiter has nothing to do: no peak reaches the ceiling" />}
    >
      {CONTROLS.map((name) => (
        <StageSetting key={name} stage={stage} shape={limiterSettings.shape} name={name} />
      ))}
      <Reductions index={index} less="less input gain keeps punch." />
    </StageFrame>
  );
}
