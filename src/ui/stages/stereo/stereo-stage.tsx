'use client';

import Box from '@mui/material/Box';
import { z } from 'zod';
import type { Stage } from '../../../core/lane/schema';
import { describe } from '../../../core/stages/definition';
import { SLOPES } from '../../../core/stages/equalizer/settings';
import { bandWidth, MONO_SHAPE_HELP, stereoSettings, type MonoShape } from '../../../core/stages/stereo/settings';
import { Reading } from '../../kit/reading';
import { figure } from '../../kit/format';
import { usePalette } from '../../theme/use-palette';
import { useSession, useWorkspace } from '../../track/context';
import { BandHead } from '../bands/band-head';
import { BandSpectrum } from '../bands/band-spectrum';
import { CrossoverPhase } from '../bands/crossover-phase';
import { ChoiceRow } from '../../kit/choice-row';
import { remembered } from '../../kit/remembered';
import { Key, StageFrame } from '../stage-frame';
import { StageQuantity } from '../stage-quantity';
import { SwitchRow } from '../../kit/switch-row';
import { TabsRow } from '../../kit/tabs-row';
import { useControls } from '../use-controls';
import { CorrelationBars, CorrelationOverTime } from './correlation';
import { Vectorscope } from './vectorscope';

const SHAPE_TITLES: Record<MonoShape, string> = {
  gentle: 'Gentle, 6 dB/octave',
  medium: 'Medium, 12 dB/octave',
  steep: 'Steep, 24 dB/octave',
};
const SLOPE_TITLES = Object.fromEntries(SLOPES.map((slope) => [slope, `${slope} dB/octave`])) as Record<
  (typeof SLOPES)[number],
  string
>;

const useTab = remembered('stereo-controls', z.object({ tab: z.enum(['width', 'bass', 'sides']).default('width') }));

/** LU that a mono sum costs, before the stage and behind it. */
function FoldDown({ index }: { index: number }) {
  const images = useWorkspace((state) => state.pass?.images[index]);
  const words = (lu: number | undefined) =>
    lu === undefined ? '–' : lu === Infinity ? 'everything' : figure(Math.max(0, lu));
  return (
    <dl style={{ margin: 0, fontSize: 12.5 }} aria-label="Fold-down loss">
      <Reading
        name="Lost in mono, in → out"
        value={`${words(images?.before.foldDownLu)} → ${words(images?.after.foldDownLu)}`}
        unit="LU"
      />
    </dl>
  );
}

/** Width, mono bass and sides, with what they do to the image. */
export function StereoStage({ stage, index }: { stage: Extract<Stage, { kind: 'stereo' }>; index: number }) {
  const session = useSession();
  const palette = usePalette();
  const count = useWorkspace((state) => state.version.lane.crossovers.frequenciesHz.length + 1);
  const open = Math.min(
    useWorkspace((state) => state.openBand),
    count - 1,
  );
  const { tab } = useTab();
  const { settings } = stage;
  const { widthsPercent } = settings;
  const { set, quantity } = useControls(stage, stereoSettings.shape);
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
              onOpen={(next) => session.openBand(next)}
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
            <CorrelationBars index={index} />
            <div>
              <CorrelationOverTime index={index} band={open} />
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
          ['sides', 'Sides'],
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
          <SwitchRow
            title="Mono below"
            help="Takes the side out of the bass. Good for vinyl, clubs and phones; costs the width of low instruments."
            on={settings.monoBelow}
            onChange={(monoBelow) => set('Mono below', { monoBelow })}
          />
          {quantity('monoUpperHz', !settings.monoBelow)}
          {quantity('monoLowerHz', !settings.monoBelow)}
          <ChoiceRow
            title="Shape"
            help={MONO_SHAPE_HELP[settings.monoShape]}
            value={settings.monoShape}
            titles={SHAPE_TITLES}
            onChange={(monoShape) => set('Mono shape', { monoShape })}
          />
          <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{MONO_SHAPE_HELP[settings.monoShape]}</Box>
          <SwitchRow
            title="High-pass on the side"
            help="Clears the low end at the edges with a slope of its own; mid and mono sum stay as they are."
            on={settings.sideHighPass}
            onChange={(sideHighPass) => set('Side high-pass', { sideHighPass })}
          />
          {settings.sideHighPass && (
            <>
              {quantity('sideHighPassHz')}
              <ChoiceRow
                title="Slope"
                help="Steeper keeps more of the side above the corner; costs more turning of the phase there."
                value={settings.sideSlopeDbPerOctave}
                titles={SLOPE_TITLES}
                onChange={(slope) => set('Side slope', { sideSlopeDbPerOctave: slope })}
              />
            </>
          )}
        </>
      )}
      {tab === 'sides' && (
        <>
          {quantity('leftDb')}
          {quantity('rightDb')}
          <SwitchRow
            title="Swap sides"
            help="Left becomes right. For a mix that came in the wrong way round."
            on={settings.swap}
            onChange={(swap) => set('Swap sides', { swap })}
          />
          <SwitchRow
            title="Invert left"
            help="Turns the polarity of the left side over. For a mix with one side inverted: correlation far below 0 and no mono sum."
            on={settings.invertLeft}
            onChange={(invertLeft) => set('Invert left', { invertLeft })}
          />
          <SwitchRow
            title="Invert right"
            help="Turns the polarity of the right side over."
            on={settings.invertRight}
            onChange={(invertRight) => set('Invert right', { invertRight })}
          />
        </>
      )}
      <FoldDown index={index} />
    </StageFrame>
  );
}
