'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Tooltip from '@mui/material/Tooltip';
import { useEffect } from 'react';
import { z } from 'zod';
import { outputGainDb } from '../../../core/stages/clipper/settings';
import { usePalette } from '../../theme/use-palette';
import { useAudition, useEditor } from '../../track/context';
import { DistortionPicture } from '../distortion/distortion-picture';
import { OversamplingRows } from '../distortion/oversampling-rows';
import { remembered } from '../../kit/remembered';
import { Key, StageFrame } from '../stage-frame';
import { TabsRow } from '../../kit/tabs-row';
import type { PanelProps } from '../stage-panel';
import { useControls } from '../use-controls';
import { TipsPicture, useTipsView } from './tips-picture';
import { Divider } from './divider';
import { Shaved } from './shaved';
import { ShavedStrip } from './shaved-strip';

const useTab = remembered('clipper-controls', z.object({ tab: z.enum(['main', 'filters']).default('main') }));

/** Plays only what the clipper cuts off. */
function HearRemoved({ stage }: Pick<PanelProps<'clipper'>, 'stage'>) {
  const editor = useEditor();
  const removed = useAudition((state) => state.hearsRemoved);
  const gainDb = stage.settings.inputGainDb + outputGainDb(stage.settings);
  useEffect(() => {
    if (removed) editor.audition.hearRemoved(stage.on ? gainDb : null);
  }, [editor, removed, stage.on, gainDb]);
  return (
    <Tooltip title="Hear only what is cut off, at its real level: if you can make out music in it, it is too much">
      <span>
        <Button
          variant={removed ? 'contained' : 'outlined'}
          aria-pressed={removed}
          disabled={!stage.on}
          onClick={() => editor.audition.hearRemoved(removed ? null : gainDb)}
        >
          Hear what’s cut
        </Button>
      </span>
    </Tooltip>
  );
}

/** The clipper: the wave around the ceiling, what it adds, where it works, and its controls. */
export function ClipperPanel({ stage, index }: PanelProps<'clipper'>) {
  const palette = usePalette();
  const { tab } = useTab();
  const { share } = useTipsView();
  const { settings } = stage;
  const { set, quantity, choice, toggle, optionHelp } = useControls(stage);
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
            <TipsPicture stage={stage} index={index} />
          </Box>
          <Divider
            label="Height of the tips"
            value={share}
            min={30}
            max={80}
            onChange={(next) => useTipsView.setState({ share: next })}
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
          {choice('curve')}
          <Box sx={{ fontSize: 12, color: 'text.secondary', pb: 0.5 }}>{optionHelp('curve')}</Box>
          {quantity('inputGainDb')}
          {quantity('ceilingDbfs')}
          {quantity('kneePercent', settings.curve === 'hard')}
          {quantity('outputGainDb', settings.link !== 'none')}
          {choice('link')}
        </>
      )}
      {tab === 'filters' && (
        <>
          <OversamplingRows
            value={settings.oversampling}
            onChange={(label, oversampling) => set(label, { oversampling })}
          />
          {toggle('truePeaks')}
        </>
      )}
    </StageFrame>
  );
}
