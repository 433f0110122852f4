'use client';

import type { Stage } from '../../../../core/lane/schema';
import { describe } from '../../../../core/stages/definition';
import { limiterSettings } from '../../../../core/stages/limiter/settings';
import { usePalette } from '../../../theme/use-palette';
import { useSession } from '../../context';
import { ReductionHistory } from '../dynamics/reduction-history';
import { Reductions } from '../dynamics/reductions';
import { Key, StageFrame } from '../stage-frame';
import { StageQuantity } from '../stage-quantity';

const CONTROLS = ['inputGainDb', 'ceilingDbtp', 'lookAheadMs', 'recoveryMs'] as const;
/** Ceiling, drive, and what the gain does about them. */
export function LimiterStage({ stage, index }: { stage: Extract<Stage, { kind: 'limiter' }>; index: number }) {
  const session = useSession();
  const palette = usePalette();
  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={<Key color={palette.ink}>gain reduction, with its peaks held</Key>}
      picture={<ReductionHistory index={index} idle="The limiter has nothing to do: no peak reaches the ceiling" />}
    >
      {CONTROLS.map((name) => {
        const quantity = describe(limiterSettings.shape[name]);
        return (
          <StageQuantity
            key={name}
            stage={stage.id}
            control={name}
            quantity={quantity}
            value={stage.settings[name]}
            onChange={(value) => session.setStage(stage, quantity.title, { [name]: value })}
          />
        );
      })}
      <Reductions index={index} less="less input gain keeps punch." />
    </StageFrame>
  );
}
