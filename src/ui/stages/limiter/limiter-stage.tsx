'use client';

import { z } from 'zod';
import type { Stage } from '../../../core/lane/schema';
import {
  DETECTION_HELP,
  limiterSettings,
  RECOVERY_HELP,
  type EMPHASES,
  type LimiterDetection,
  type Recovery,
} from '../../../core/stages/limiter/settings';
import { usePalette } from '../../theme/use-palette';
import { CrossoverPhase } from '../bands/crossover-phase';
import { ChoiceRow } from '../../kit/choice-row';
import { ReductionHistory } from '../dynamics/reduction-history';
import { Reductions } from '../dynamics/reductions';
import { remembered } from '../../kit/remembered';
import { Key, StageFrame } from '../stage-frame';
import { SwitchRow } from '../../kit/switch-row';
import { TabsRow } from '../../kit/tabs-row';
import { useControls } from '../use-controls';
import { LimiterHints } from './limiter-hints';

const RECOVERY_TITLES: Record<Recovery, string> = {
  fast: 'Fast',
  medium: 'Medium',
  slow: 'Slow',
  automatic: 'Automatic',
};
const EMPHASIS_TITLES: Record<(typeof EMPHASES)[number], string> = {
  off: 'None',
  soft: 'Soft, up to 1 dB',
  medium: 'Medium, up to 2 dB',
  hard: 'Hard, up to 3.5 dB',
};
const DETECTION_TITLES: Record<LimiterDetection, string> = {
  true4: 'True peaks, 4×',
  true8: 'True peaks, 8×',
  sample: 'Sample peaks only',
};
const useTab = remembered('limiter-controls', z.object({ tab: z.enum(['main', 'shape', 'bands']).default('main') }));

/** Ceiling, drive, and what the gain does about them. */
export function LimiterStage({ stage, index }: { stage: Extract<Stage, { kind: 'limiter' }>; index: number }) {
  const palette = usePalette();
  const { tab } = useTab();
  const { settings } = stage;
  const { set, quantity } = useControls(stage, limiterSettings.shape);
  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={<Key color={palette.ink}>gain reduction, with its peaks held</Key>}
      picture={<ReductionHistory index={index} idle="The limiter has nothing to do: no peak reaches the ceiling" />}
    >
      <TabsRow
        label="Controls"
        value={tab}
        titles={[
          ['main', 'Main'],
          ['shape', 'Peaks and sides'],
          ['bands', 'Bands'],
        ]}
        onChange={(next) => useTab.setState({ tab: next })}
      />
      {tab === 'main' && (
        <>
          {quantity('inputGainDb')}
          <SwitchRow
            title="Listen without the gain"
            help="Takes the input gain back out behind the limiter while you listen, so that louder does not sound better. The full pass and deliveries keep it."
            on={settings.listenEven}
            onChange={(listenEven) => set('Listen without the gain', { listenEven })}
          />
          {quantity('ceilingDbtp')}
          {quantity('lookAheadMs')}
          <ChoiceRow
            title="Recovery"
            help={RECOVERY_HELP[settings.recovery]}
            value={settings.recovery}
            titles={RECOVERY_TITLES}
            onChange={(recovery) => set('Recovery', { recovery })}
          />
          {quantity('recoveryMs')}
        </>
      )}
      {tab === 'shape' && (
        <>
          <ChoiceRow
            title="Transient emphasis"
            help="Raises what jumps out above the last 40 ms ahead of the limiter, so that a hit still stands out behind it. Good for drums that the limiter would flatten; costs more gain reduction."
            value={settings.emphasis}
            titles={EMPHASIS_TITLES}
            onChange={(emphasis) => set('Transient emphasis', { emphasis })}
          />
          <ChoiceRow
            title="Looks at"
            help={DETECTION_HELP[settings.detection]}
            value={settings.detection}
            titles={DETECTION_TITLES}
            onChange={(detection) => set('Looks at', { detection })}
          />
          {quantity('linkPercent')}
          {quantity('recoveryLinkPercent', settings.linkPercent === 100)}
        </>
      )}
      {tab === 'bands' && (
        <>
          <SwitchRow
            title="Limit each band first"
            help="Holds each of the lane’s bands before everything is limited, so that a loud bass does not pull the voice down. Costs the balance of the bands while it works."
            on={settings.preLimited}
            onChange={(preLimited) => set('Limit each band first', { preLimited })}
          />
          {quantity('preLimitDb', !settings.preLimited)}
          <CrossoverPhase />
        </>
      )}
      <Reductions index={index} less="less input gain keeps punch." />
      <LimiterHints index={index} />
    </StageFrame>
  );
}
