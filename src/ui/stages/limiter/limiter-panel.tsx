'use client';

import { z } from 'zod';
import { usePalette } from '../../theme/use-palette';
import { CrossoverPhase } from '../bands/crossover-phase';
import { Reductions } from '../dynamics/reductions';
import { remembered } from '../../kit/remembered';
import { Key, StageFrame } from '../stage-frame';
import { TabsRow } from '../../kit/tabs-row';
import type { PanelProps } from '../stage-panel';
import { useControls } from '../use-controls';
import { LimiterHints } from './limiter-hints';
import { LimitingPicture } from './limiting-picture';

const useTab = remembered('limiter-controls', z.object({ tab: z.enum(['main', 'shape', 'bands']).default('main') }));

/** Ceiling and drive, and what they do to the gain. */
export function LimiterPanel({ stage, index }: PanelProps<'limiter'>) {
  const palette = usePalette();
  const { tab } = useTab();
  const { settings } = stage;
  const { quantity, choice, toggle } = useControls(stage);
  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={
        <>
          <Key color={palette.copper}>taken</Key>
          <Key color={palette.patina}>left</Key>
          <Key color={palette.ink}>gain reduction</Key>
        </>
      }
      picture={<LimitingPicture stage={stage} index={index} />}
    >
      <TabsRow
        label="Controls"
        value={tab}
        titles={[
          ['main', 'Main'],
          ['shape', 'Peaks and link'],
          ['bands', 'Bands'],
        ]}
        onChange={(next) => useTab.setState({ tab: next })}
      />
      {tab === 'main' && (
        <>
          {quantity('inputGainDb')}
          {toggle('listenEven')}
          {quantity('ceilingDbtp')}
          {quantity('lookAheadMs')}
          {quantity('recoveryMs')}
          {quantity('autoRecoveryPercent')}
        </>
      )}
      {tab === 'shape' && (
        <>
          {quantity('emphasisDb')}
          {quantity('emphasisLowHz', settings.emphasisDb === 0)}
          {quantity('emphasisHighHz', settings.emphasisDb === 0)}
          {choice('detection')}
          {quantity('linkPercent')}
          {quantity('rejoinMs', settings.linkPercent === 100)}
        </>
      )}
      {tab === 'bands' && (
        <>
          {toggle('preLimited')}
          {quantity('preLimitDb', !settings.preLimited)}
          {quantity('preLimitRecoveryMs', !settings.preLimited)}
          <CrossoverPhase />
        </>
      )}
      <Reductions index={index} less="less input gain keeps punch." />
      <LimiterHints index={index} />
    </StageFrame>
  );
}
