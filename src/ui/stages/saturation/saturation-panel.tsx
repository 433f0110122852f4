'use client';

import Box from '@mui/material/Box';
import { z } from 'zod';
import { describe } from '../../../core/stages/setting';
import { bandAmount, bandDrive } from '../../../core/stages/saturation/settings';
import { usePalette } from '../../theme/use-palette';
import { useEditor } from '../../track/context';
import { BandHead } from '../bands/band-head';
import { BandSpectrum } from '../bands/band-spectrum';
import { DistortionPicture } from '../distortion/distortion-picture';
import { OversamplingRows } from '../distortion/oversampling-rows';
import { WavePicture } from '../distortion/wave-picture';
import { remembered } from '../../kit/remembered';
import { Key, StageFrame } from '../stage-frame';
import { StageQuantity } from '../stage-quantity';
import { TabsRow } from '../../kit/tabs-row';
import type { PanelProps } from '../stage-panel';
import { useControls } from '../use-controls';
import { CurvePicture } from './curve-picture';
import { HarmonicsPicture } from './harmonics-picture';
import { useOpenBand } from '../bands/use-open-band';

const useView = remembered(
  'saturation-view',
  z.object({
    tab: z.enum(['main', 'tone', 'bands', 'filters']).default('main'),
    picture: z.enum(['tone', 'music']).default('tone'),
  }),
);

/** Saturation: its curve with the music on it, the wave, the harmonics, and its controls. */
export function SaturationPanel({ stage, index }: PanelProps<'saturation'>) {
  const editor = useEditor();
  const palette = usePalette();
  const { count, open } = useOpenBand();
  const { tab, picture } = useView();
  const { settings } = stage;
  const { set, quantity, choice, toggle, optionHelp } = useControls(stage);
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
                onOpen={(next) => editor.selection.openBand(next)}
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
          {choice('curve')}
          <Box sx={{ fontSize: 12, color: 'text.secondary', pb: 0.5 }}>{optionHelp('curve')}</Box>
          {quantity('driveDb')}
          {quantity('mixPercent')}
          {quantity('biasPercent')}
          {toggle('makeupMatched')}
          {quantity('makeupDb', settings.makeupMatched)}
        </>
      )}
      {tab === 'tone' && (
        <>
          {quantity('toneBeforeDb')}
          {toggle('toneUndone')}
          {quantity('toneAfterDb', settings.toneUndone)}
          {quantity('protectBelowHz')}
          {choice('movement')}
          {quantity('depthPercent', settings.movement === 'still')}
          {quantity('rateHz', settings.movement !== 'wander')}
        </>
      )}
      {tab === 'bands' && (
        <>
          {choice('part')}
          {choice('split')}
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
