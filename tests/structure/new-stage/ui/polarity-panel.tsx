'use client';

import { StageFrame } from '../stage-frame';
import type { PanelProps } from '../stage-panel';
import { useControls } from '../use-controls';

export function PolarityPanel({ stage, index }: PanelProps<'polarity'>) {
  const { toggle } = useControls(stage);
  return (
    <StageFrame stage={stage} index={index} legend={null} picture={null}>
      {toggle('left')}
      {toggle('right')}
    </StageFrame>
  );
}
