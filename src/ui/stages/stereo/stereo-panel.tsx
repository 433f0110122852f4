'use client';

import Box from '@mui/material/Box';
import { useState } from 'react';
import { z } from 'zod';
import { reading, readingText } from '../../../core/measure/reading';
import { describe } from '../../../core/stages/setting';
import { bandWidth } from '../../../core/stages/stereo/settings';
import { ReadingRow } from '../../kit/reading-row';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements } from '../../track/context';
import { BandHead } from '../bands/band-head';
import { BandSpectrum } from '../bands/band-spectrum';
import { CrossoverPhase } from '../bands/crossover-phase';
import { remembered } from '../../kit/remembered';
import { Key, StageFrame } from '../stage-frame';
import { StageQuantity } from '../stage-quantity';
import { TabsRow } from '../../kit/tabs-row';
import type { PanelProps } from '../stage-panel';
import { useControls } from '../use-controls';
import { CorrelationBars, type CorrelationOf, CorrelationOverTime } from './correlation';
import { Vectorscope } from './vectorscope';
import { useOpenBand } from '../bands/use-open-band';
import { StageFigures } from '../stage-figures';

const useTab = remembered('stereo-controls', z.object({ tab: z.enum(['width', 'bass', 'channels']).default('width') }));

/** LU lost in mono, before and after the stage. */
function FoldDown({ index }: { index: number }) {
  const images = useMeasurements((state) => state.measurement?.images[index]);
  const words = (lu: number | undefined) =>
    lu === undefined
      ? '–'
      : lu === Infinity
        ? 'everything'
        : readingText(reading('loudnessDifference', Math.max(0, lu)));
  return (
    <StageFigures label="Fold-down loss">
      <ReadingRow
        name="Lost in mono, in → out"
        of={`${words(images?.before.foldDownLu)} → ${words(images?.after.foldDownLu)} LU`}
      />
    </StageFigures>
  );
}

/** Width, mono bass and channels, with what they do to the image. */
export function StereoPanel({ stage, index }: PanelProps<'stereo'>) {
  const editor = useEditor();
  const palette = usePalette();
  const { count, open } = useOpenBand();
  const [shown, setShown] = useState<CorrelationOf>('all');
  const { tab } = useTab();
  const { settings } = stage;
  const { widthsPercent } = settings;
  const { set, quantity, choice, toggle, optionHelp } = useControls(stage);
  const widths = widthsPercent.slice(0, count);
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
        <Box
          sx={{ position: 'absolute', inset: 0, display: 'grid', gridTemplateRows: 'minmax(0, 2fr) minmax(0, 3fr)' }}
        >
          <Box sx={{ position: 'relative' }}>
            <BandSpectrum
              index={index}
              open={open}
              onOpen={(next) => editor.selection.openBand(next)}
              names={widths.map((width) => `${width} %`)}
            />
          </Box>
          <Box
            sx={{
              ...{ display: 'grid', gridTemplateColumns: '5fr 5fr 6fr', borderTop: 1, borderColor: 'divider' },
              '& > div': { position: 'relative', minWidth: 0, minHeight: 0 },
            }}
          >
            <div>
              <Vectorscope />
            </div>
            <CorrelationBars
              index={index}
              of={shown}
              onChoose={(of) => {
                setShown(of);
                if (of !== 'all') editor.selection.openBand(of);
              }}
            />
            <div>
              <CorrelationOverTime index={index} of={shown === 'all' ? 'all' : Math.min(shown, count - 1)} />
            </div>
          </Box>
        </Box>
      }
    >
      <TabsRow
        label="Controls"
        value={tab}
        titles={[
          ['width', 'Width'],
          ['bass', 'Bass and side'],
          ['channels', 'Channels'],
        ]}
        onChange={(next) => useTab.setState({ tab: next })}
      />
      {tab === 'width' && (
        <>
          <BandHead band={open} />
          <StageQuantity
            stage={stage.id}
            control={`widthsPercent.${open}`}
            quantity={describe(bandWidth)}
            value={widthsPercent[open]}
            onChange={(width) =>
              set(`Band ${open + 1} width`, {
                widthsPercent: widthsPercent.map((other, i) => (i === open ? width : other)),
              })
            }
          />
          <StageQuantity
            stage={stage.id}
            control="widthsPercent"
            quantity={{ ...describe(bandWidth), title: 'All bands' }}
            value={Math.round(widths.reduce((sum, width) => sum + width, 0) / count)}
            onChange={(width) => set('Width of all bands', { widthsPercent: widthsPercent.map(() => width) })}
          />
          {quantity('midSideDb')}
          <CrossoverPhase />
        </>
      )}
      {tab === 'bass' && (
        <>
          {toggle('monoBelow')}
          {quantity('monoUpperHz', !settings.monoBelow)}
          {quantity('monoLowerHz', !settings.monoBelow)}
          {choice('monoShape')}
          <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{optionHelp('monoShape')}</Box>
          {toggle('sideHighPass')}
          {settings.sideHighPass && (
            <>
              {quantity('sideHighPassHz')}
              {choice('sideSlopeDbPerOctave')}
            </>
          )}
        </>
      )}
      {tab === 'channels' && (
        <>
          {quantity('leftDb')}
          {quantity('rightDb')}
          {toggle('swap')}
          {toggle('invertLeft')}
          {toggle('invertRight')}
        </>
      )}
      <FoldDown index={index} />
    </StageFrame>
  );
}
