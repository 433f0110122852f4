'use client';

import Box from '@mui/material/Box';
import { useMemo } from 'react';
import { z } from 'zod';
import { amplitude, decibels } from '../../../core/signal/decibels';
import { compressorDesign } from '../../../core/stages/compressor/design';
import { staticReduction } from '../../../core/stages/dynamics';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useTrack } from '../../track/context';
import { Reductions } from '../dynamics/reductions';
import { TransferCurve } from '../dynamics/transfer-curve';
import { remembered } from '../../kit/remembered';
import { Key, StageFrame } from '../stage-frame';
import { TabsRow } from '../../kit/tabs-row';
import type { PanelProps } from '../stage-panel';
import { SoloButton } from '../solo-button';
import { useControls } from '../use-controls';
import { CompressionHistory } from './compression-history';

const useTab = remembered('compressor-controls', z.object({ tab: z.enum(['main', 'shape', 'key']).default('main') }));

/** The compressor: its curve with where the music is, what it did, and its controls. */
export function CompressorPanel({ stage, index }: PanelProps<'compressor'>) {
  const editor = useEditor();
  const palette = usePalette();
  const sampleRate = useTrack((state) => state.details.mix?.source.sampleRate ?? 44100);
  const { tab } = useTab();
  const { settings } = stage;
  const design = useMemo(() => compressorDesign(settings, sampleRate), [settings, sampleRate]);
  const output = (level: number) =>
    level + decibels(design.dry + design.wet * amplitude(-staticReduction(design, level)));
  const live = () => {
    const latest = editor.board.latest;
    const joint = latest?.joints[index];
    if (!latest || !joint) return null;
    const into = joint.samplePeakDbfs;
    const gain = amplitude(-(latest.gainReduction[index] ?? 0));
    return { into, out: into + decibels(design.dry + design.wet * gain) };
  };

  const { quantity, choice, toggle } = useControls(stage);
  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={
        <>
          <Key color={palette.ink}>gain reduction, peaks held</Key>
          <Key color={palette.copper}>in</Key>
          <Key color={palette.patina}>out</Key>
        </>
      }
      picture={
        <Box
          sx={{ position: 'absolute', inset: 0, display: 'grid', gridTemplateColumns: 'minmax(0, 5fr) minmax(0, 6fr)' }}
        >
          <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0 }}>
            <Box sx={{ flex: 1, minHeight: 0 }}>
              <TransferCurve output={output} live={live} thresholds={[settings.thresholdDbfs]} />
            </Box>
            <Box sx={{ px: 2, pb: 1 }}>
              <Reductions index={index} less="a higher threshold or a lower ratio keeps life." />
            </Box>
          </Box>
          <Box sx={{ position: 'relative' }}>
            <CompressionHistory index={index} />
          </Box>
        </Box>
      }
    >
      <TabsRow
        label="Controls"
        value={tab}
        titles={[
          ['main', 'Main'],
          ['shape', 'Shape'],
          ['key', 'Side-chain'],
        ]}
        onChange={(next) => useTab.setState({ tab: next })}
      />
      {tab === 'main' && (
        <>
          {choice('circuit')}
          {quantity('thresholdDbfs')}
          {quantity('ratio')}
          {quantity('attackMs')}
          {quantity('releaseMs')}
          {toggle('autoRelease')}
          {quantity('makeupDb', settings.makeupMatched)}
          {toggle('makeupMatched')}
        </>
      )}
      {tab === 'shape' && (
        <>
          {(['kneeDb', 'rangeDb', 'onsetPercent', 'lookAheadMs', 'mixPercent'] as const).map((name) => quantity(name))}
          {settings.circuit === 'fet' && quantity('colourPercent')}
        </>
      )}
      {tab === 'key' && (
        <>
          {choice('operation')}
          {choice('detector')}
          {(['sideChainHighPassHz', 'sideChainTiltDb', 'linkPercent'] as const).map((name) => quantity(name))}
          <Box sx={{ pt: 0.5 }}>
            <SoloButton
              title="Hear the side-chain"
              help="Plays what the detector hears of the music as it enters the compressor: if the kick still leads, take out more bass"
            />
          </Box>
        </>
      )}
    </StageFrame>
  );
}
