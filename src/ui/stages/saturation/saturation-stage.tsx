'use client';

import Box from '@mui/material/Box';
import { z } from 'zod';
import type { Stage } from '../../../core/lane/schema';
import { describe } from '../../../core/stages/definition';
import { CURVE_HELP, CURVE_TITLES } from '../../../core/stages/saturation/curves';
import {
  bandAmount,
  bandDrive,
  saturationSettings,
  type Movement,
  type SATURATION_PARTS,
  type SPLITS,
} from '../../../core/stages/saturation/settings';
import { usePalette } from '../../theme/use-palette';
import { useSession, useWorkspace } from '../../track/context';
import { BandHead } from '../bands/band-head';
import { BandSpectrum } from '../bands/band-spectrum';
import { DistortionPicture } from '../distortion/distortion-picture';
import { OversamplingRows } from '../distortion/oversampling-rows';
import { WavePicture } from '../distortion/wave-picture';
import { ChoiceRow } from '../../kit/choice-row';
import { remembered } from '../../kit/remembered';
import { Key, StageFrame } from '../stage-frame';
import { StageQuantity } from '../stage-quantity';
import { SwitchRow } from '../../kit/switch-row';
import { TabsRow } from '../../kit/tabs-row';
import { useControls } from '../use-controls';
import { CurvePicture } from './curve-picture';
import { HarmonicsPicture } from './harmonics-picture';

const PART_TITLES: Record<(typeof SATURATION_PARTS)[number], string> = {
  stereo: 'Left and right',
  mid: 'Mid alone',
  side: 'Side alone',
};
const MOVEMENT_TITLES: Record<Movement, string> = {
  still: 'Stays still',
  level: 'Follows the level',
  wander: 'Wanders by itself',
};
const SPLIT_TITLES: Record<(typeof SPLITS)[number], string> = { whole: 'The whole signal', bands: 'Each band' };

const useView = remembered(
  'saturation-view',
  z.object({
    tab: z.enum(['main', 'tone', 'bands', 'filters']).default('main'),
    picture: z.enum(['tone', 'music']).default('tone'),
  }),
);

/** Saturation: its curve with the music on it, the wave, the harmonics, and its controls. */
export function SaturationStage({ stage, index }: { stage: Extract<Stage, { kind: 'saturation' }>; index: number }) {
  const session = useSession();
  const palette = usePalette();
  const count = useWorkspace((state) => state.version.lane.crossovers.frequenciesHz.length + 1);
  const open = Math.min(
    useWorkspace((state) => state.openBand),
    count - 1,
  );
  const { tab, picture } = useView();
  const { settings } = stage;
  const { set, quantity } = useControls(stage, saturationSettings.shape);
  const bandwise = settings.split === 'bands';
  const drawn = bandwise ? { ...settings, driveDb: settings.driveDb + settings.bandDrivesDb[open] } : settings;
  const ofBand = (list: number[], value: number) => list.map((other, i) => (i === open ? value : other));
  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={
        <>
          <Key color={palette.copper}>in</Key>
          <Key color={palette.patina}>out</Key>
        </>
      }
      picture={
        <Box sx={{ position: 'absolute', inset: 0, display: 'grid', gridTemplateColumns: '4fr 5fr' }}>
          <Box
            sx={{
              display: 'grid',
              gridTemplateRows: 'minmax(0, 1fr)',
              position: 'relative',
              borderRight: 1,
              borderColor: 'divider',
            }}
          >
            {bandwise && tab === 'bands' ? (
              <BandSpectrum
                index={index}
                open={open}
                onOpen={(next) => session.openBand(next)}
                names={settings.bandAmountsPercent.slice(0, count).map((amount) => `${amount} %`)}
              />
            ) : (
              <CurvePicture settings={drawn} index={index} />
            )}
          </Box>
          <Box sx={{ display: 'grid', gridTemplateRows: 'minmax(0, 2fr) minmax(0, 3fr)', minWidth: 0 }}>
            <Box sx={{ position: 'relative', borderBottom: 1, borderColor: 'divider' }}>
              <WavePicture index={index} />
            </Box>
            <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, pt: 0.5 }}>
              <Box sx={{ px: 2 }}>
                <TabsRow
                  label="Harmonics"
                  value={picture}
                  titles={[
                    ['tone', 'Harmonics of a tone'],
                    ['music', 'Added to the music'],
                  ]}
                  onChange={(next) => useView.setState({ picture: next })}
                />
              </Box>
              <Box sx={{ flex: 1, minHeight: 0 }}>
                {picture === 'tone' ? <HarmonicsPicture settings={drawn} /> : <DistortionPicture index={index} />}
              </Box>
            </Box>
          </Box>
        </Box>
      }
    >
      <TabsRow
        label="Controls"
        value={tab}
        titles={[
          ['main', 'Main'],
          ['tone', 'Tone'],
          ['bands', 'Bands'],
          ['filters', 'Sampling'],
        ]}
        onChange={(next) => useView.setState({ tab: next })}
      />
      {tab === 'main' && (
        <>
          <ChoiceRow
            title="Curve"
            help={CURVE_HELP[settings.curve]}
            value={settings.curve}
            titles={CURVE_TITLES}
            onChange={(curve) => set('Curve', { curve })}
          />
          <Box sx={{ fontSize: 12, color: 'text.secondary', pb: 0.5 }}>{CURVE_HELP[settings.curve]}</Box>
          {quantity('driveDb')}
          {quantity('mixPercent')}
          {quantity('biasPercent')}
          <SwitchRow
            title="Hold the loudness"
            help="After each full pass the makeup is set so that the stage is as loud out as in: you hear colour, not level."
            on={settings.makeupMatched}
            onChange={(makeupMatched) => set('Held loudness', { makeupMatched })}
          />
          {quantity('makeupDb', settings.makeupMatched)}
        </>
      )}
      {tab === 'tone' && (
        <>
          {quantity('toneBeforeDb')}
          <SwitchRow
            title="Undo behind the curve"
            help="The tilt before the curve is taken back behind it, so that only the harmonics change their place. Off, the tone behind is your own."
            on={settings.toneUndone}
            onChange={(toneUndone) => set('Tone undone', { toneUndone })}
          />
          {quantity('toneAfterDb', settings.toneUndone)}
          {quantity('protectBelowHz')}
          <ChoiceRow
            title="Amount"
            help="The amount can stay, follow the level so that quiet passages stay clean, or wander slowly, which keeps a static sound alive."
            value={settings.movement}
            titles={MOVEMENT_TITLES}
            onChange={(movement) => set('Movement', { movement })}
          />
          {quantity('depthPercent', settings.movement === 'still')}
          {quantity('rateHz', settings.movement !== 'wander')}
        </>
      )}
      {tab === 'bands' && (
        <>
          <ChoiceRow
            title="Works on"
            help="Both sides, or mid or side alone. The side alone opens a mix; costs mono compatibility of what it adds."
            value={settings.part}
            titles={PART_TITLES}
            onChange={(part) => set('Works on', { part })}
          />
          <ChoiceRow
            title="Bends"
            help="The whole signal through one curve, or each of the lane’s bands through its own. By bands, the bass no longer distorts the rest."
            value={settings.split}
            titles={SPLIT_TITLES}
            onChange={(split) => set('Split', { split })}
          />
          {bandwise && (
            <>
              <BandHead band={open} />
              <StageQuantity
                stage={stage.id}
                control={`bandDrivesDb.${open}`}
                quantity={describe(bandDrive)}
                value={settings.bandDrivesDb[open]}
                onChange={(value) =>
                  set(`Band ${open + 1} drive`, { bandDrivesDb: ofBand(settings.bandDrivesDb, value) })
                }
              />
              <StageQuantity
                stage={stage.id}
                control={`bandAmountsPercent.${open}`}
                quantity={describe(bandAmount)}
                value={settings.bandAmountsPercent[open]}
                onChange={(value) =>
                  set(`Band ${open + 1} amount`, { bandAmountsPercent: ofBand(settings.bandAmountsPercent, value) })
                }
              />
            </>
          )}
        </>
      )}
      {tab === 'filters' && (
        <OversamplingRows
          value={settings.oversampling}
          onChange={(label, oversampling) => set(label, { oversampling })}
        />
      )}
    </StageFrame>
  );
}
