'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Tooltip from '@mui/material/Tooltip';
import { useEffect } from 'react';
import { z } from 'zod';
import type { Stage } from '../../../core/lane/schema';
import { CLIP_CURVE_HELP, CLIP_CURVE_TITLES } from '../../../core/stages/clipper/curves';
import { CLIP_LINK_HELP, clipperSettings, outputGainDb, type ClipLink } from '../../../core/stages/clipper/settings';
import { usePalette } from '../../theme/use-palette';
import { useSession, useWorkspace } from '../../track/context';
import { DistortionPicture } from '../distortion/distortion-picture';
import { OversamplingRows } from '../distortion/oversampling-rows';
import { ChoiceRow } from '../../kit/choice-row';
import { remembered } from '../../kit/remembered';
import { Key, StageFrame } from '../stage-frame';
import { SwitchRow } from '../../kit/switch-row';
import { TabsRow } from '../../kit/tabs-row';
import { useControls } from '../use-controls';
import { CeilingPicture, useCeilingView } from './ceiling-picture';
import { Divider } from './divider';
import { Shaved } from './shaved';
import { ShavedStrip } from './shaved-strip';

const LINK_TITLES: Record<ClipLink, string> = {
  none: 'Gain of its own',
  input: 'Falls with the input',
  ceiling: 'Rises as the ceiling falls',
};
const useTab = remembered('clipper-controls', z.object({ tab: z.enum(['main', 'filters']).default('main') }));

/** Lets only what the clipper takes be heard. */
function HearRemoved({ stage }: { stage: Extract<Stage, { kind: 'clipper' }> }) {
  const session = useSession();
  const removed = useWorkspace((state) => state.hearsRemoved);
  const gainDb = stage.settings.inputGainDb + outputGainDb(stage.settings);
  useEffect(() => {
    if (removed) session.listening.hearRemoved(stage.on ? gainDb : null);
  }, [session, removed, stage.on, gainDb]);
  return (
    <Tooltip title="Hear only what is cut off, at its own level: when music can be made out in it, it is too much">
      <span>
        <Button
          variant={removed ? 'contained' : 'outlined'}
          aria-pressed={removed}
          disabled={!stage.on}
          onClick={() => session.listening.hearRemoved(removed ? null : gainDb)}
        >
          Hear what is cut
        </Button>
      </span>
    </Tooltip>
  );
}

/** The clipper: the wave around the ceiling, what it adds, where it works, and its controls. */
export function ClipperStage({ stage, index }: { stage: Extract<Stage, { kind: 'clipper' }>; index: number }) {
  const palette = usePalette();
  const { tab } = useTab();
  const { share } = useCeilingView();
  const { settings } = stage;
  const { set, quantity } = useControls(stage, clipperSettings.shape);
  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={
        <>
          <Key color={palette.copper}>cut off</Key>
          <Key color={palette.patina}>passes</Key>
          <HearRemoved stage={stage} />
        </>
      }
      picture={
        <Box sx={{ position: 'absolute', inset: 0, display: 'flex', flexDirection: 'column' }}>
          <Box sx={{ flex: `${share} 1 0`, minHeight: 0 }}>
            <CeilingPicture stage={stage} index={index} />
          </Box>
          <Divider
            label="Height of the wave"
            value={share}
            min={30}
            max={80}
            onChange={(next) => useCeilingView.setState({ share: next })}
          />
          <Box sx={{ flex: `${100 - share} 1 0`, minHeight: 0 }}>
            <DistortionPicture index={index} />
          </Box>
          <Shaved settings={settings} index={index} />
          <ShavedStrip index={index} />
        </Box>
      }
    >
      <TabsRow
        label="Controls"
        value={tab}
        titles={[
          ['main', 'Main'],
          ['filters', 'Oversampling'],
        ]}
        onChange={(next) => useTab.setState({ tab: next })}
      />
      {tab === 'main' && (
        <>
          <ChoiceRow
            title="Curve"
            help={CLIP_CURVE_HELP[settings.curve]}
            value={settings.curve}
            titles={CLIP_CURVE_TITLES}
            onChange={(curve) => set('Curve', { curve })}
          />
          <Box sx={{ fontSize: 12, color: 'text.secondary', pb: 0.5 }}>{CLIP_CURVE_HELP[settings.curve]}</Box>
          {quantity('inputGainDb')}
          {quantity('ceilingDbfs')}
          {quantity('kneePercent', settings.curve === 'hard')}
          {quantity('outputGainDb', settings.link !== 'none')}
          <ChoiceRow
            title="Output"
            help={CLIP_LINK_HELP[settings.link]}
            value={settings.link}
            titles={LINK_TITLES}
            onChange={(link) => set('Output link', { link })}
          />
        </>
      )}
      {tab === 'filters' && (
        <>
          <OversamplingRows
            value={settings.oversampling}
            onChange={(label, oversampling) => set(label, { oversampling })}
          />
          <SwitchRow
            title="Hold true peaks too"
            help="The filters behind the clipper let peaks grow back, by 1 dB and more on dense material. A limiter of 1 ms takes that. Good where no limiter follows; costs 2 ms of latency."
            on={settings.truePeaks}
            onChange={(truePeaks) => set('True peaks', { truePeaks })}
          />
        </>
      )}
    </StageFrame>
  );
}
