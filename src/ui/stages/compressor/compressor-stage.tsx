'use client';

import Box from '@mui/material/Box';
import { useMemo } from 'react';
import { z } from 'zod';
import type { Stage } from '../../../core/lane/schema';
import { compressorDesign } from '../../../core/stages/compressor/design';
import {
  CIRCUIT_HELP,
  compressorSettings,
  type Circuit,
  type DETECTORS,
  type OPERATIONS,
} from '../../../core/stages/compressor/settings';
import { staticReduction } from '../../../core/stages/dynamics';
import { usePalette } from '../../theme/use-palette';
import { useSession, useWorkspace } from '../../track/context';
import { ChoiceRow } from '../../kit/choice-row';
import { Reductions } from '../dynamics/reductions';
import { TransferCurve } from '../dynamics/transfer-curve';
import { remembered } from '../../kit/remembered';
import { Key, StageFrame } from '../stage-frame';
import { SwitchRow } from '../../kit/switch-row';
import { TabsRow } from '../../kit/tabs-row';
import { useControls } from '../use-controls';
import { CompressionHistory } from './compression-history';

const CIRCUIT_TITLES: Record<Circuit, string> = {
  vca: 'VCA, feed-forward',
  fet: 'FET, feedback',
  opto: 'Opto, two-stage release',
  variableMu: 'Variable mu, growing ratio',
};
const OPERATION_TITLES: Record<(typeof OPERATIONS)[number], string> = {
  stereo: 'Left and right',
  midSide: 'Mid and side',
  mid: 'Mid alone',
  side: 'Side alone',
};
const DETECTOR_TITLES: Record<(typeof DETECTORS)[number], string> = { peak: 'Peaks', rms: 'Mean square, 10 ms' };

const useTab = remembered('compressor-controls', z.object({ tab: z.enum(['main', 'shape', 'key']).default('main') }));

/** The compressor: its curve with where the programme is, what it did, and its controls. */
export function CompressorStage({ stage, index }: { stage: Extract<Stage, { kind: 'compressor' }>; index: number }) {
  const session = useSession();
  const palette = usePalette();
  const sampleRate = useWorkspace((state) => state.workspace.mix?.source.sampleRate ?? 44100);
  const { tab } = useTab();
  const { settings } = stage;
  const design = useMemo(() => compressorDesign(settings, sampleRate), [settings, sampleRate]);
  const output = (level: number) =>
    level + 20 * Math.log10(design.dry + design.wet * 10 ** (-staticReduction(design, level) / 20) || 1e-9);
  const live = () => {
    const latest = session.board.latest;
    const joint = latest?.joints[index];
    if (!latest || !joint) return null;
    const into = 20 * Math.log10(Math.max(1e-6, joint.samplePeak));
    const gain = 10 ** (-(latest.gainReduction[index] ?? 0) / 20);
    return { into, out: into + 20 * Math.log10(design.dry + design.wet * gain) };
  };

  const { set, quantity } = useControls(stage, compressorSettings.shape);
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
          ['key', 'Key'],
        ]}
        onChange={(next) => useTab.setState({ tab: next })}
      />
      {tab === 'main' && (
        <>
          <ChoiceRow
            title="Circuit"
            help={CIRCUIT_HELP[settings.circuit]}
            value={settings.circuit}
            titles={CIRCUIT_TITLES}
            onChange={(circuit) => set('Circuit', { circuit })}
          />
          {quantity('thresholdDbfs')}
          {quantity('ratio')}
          {quantity('attackMs')}
          {quantity('releaseMs')}
          <SwitchRow
            title="Automatic release"
            help="Follows the crest factor: short peaks are let go of quickly, a dense programme slowly. Good for a whole mix; costs a set rhythm."
            on={settings.autoRelease}
            onChange={(autoRelease) => set('Automatic release', { autoRelease })}
          />
          {quantity('makeupDb', settings.makeupMatched)}
          <SwitchRow
            title="Makeup matched by measurement"
            help="After each full pass the makeup is set so that the stage is as loud out as in: you hear compression, not level."
            on={settings.makeupMatched}
            onChange={(makeupMatched) => set('Matched makeup', { makeupMatched })}
          />
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
          <ChoiceRow
            title="Works on"
            help="Both sides, mid and side as a pair, or one of these alone. Mid alone holds voice, kick and bass and leaves the width."
            value={settings.operation}
            titles={OPERATION_TITLES}
            onChange={(operation) => set('Works on', { operation })}
          />
          <ChoiceRow
            title="Listens to"
            help="Peaks catch single hits; the mean square follows loudness and works more evenly. A tone reads the same on both."
            value={settings.detector}
            titles={DETECTOR_TITLES}
            onChange={(detector) => set('Detector', { detector })}
          />
          {(['sideChainHighPassHz', 'sideChainTiltDb', 'linkPercent'] as const).map((name) => quantity(name))}
        </>
      )}
    </StageFrame>
  );
}
