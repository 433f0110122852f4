'use client';

import Box from '@mui/material/Box';
import { z } from 'zod';
import { works } from '../../../core/stages/band-dynamics/design';
import {
  bandCompression,
  bandDynamicsSettings,
  bandExpansion,
  bandLimiting,
  dynamicsBand,
  type DynamicsBand,
} from '../../../core/stages/band-dynamics/settings';
import { describe } from '../../../core/stages/setting';
import { usePalette } from '../../theme/use-palette';
import { useEditor } from '../../track/context';
import { BandHead } from '../bands/band-head';
import { BandSpectrum } from '../bands/band-spectrum';
import { CrossoverPhase } from '../bands/crossover-phase';
import { Reductions } from '../dynamics/reductions';
import { remembered } from '../../kit/remembered';
import { Key, StageFrame } from '../stage-frame';
import { StageQuantity } from '../stage-quantity';
import { TabsRow } from '../../kit/tabs-row';
import type { PanelProps } from '../stage-panel';
import { BandCurve } from './band-curve';
import { BandHistories } from './band-histories';
import { useOpenBand } from '../bands/use-open-band';

/** The three gains of a band, and what their controls are called. */
const PARTS = {
  expansion: { title: 'Expansion', shape: bandExpansion.shape },
  compression: { title: 'Compression', shape: bandCompression.shape },
  limiting: { title: 'Limit', shape: bandLimiting.shape },
} as const satisfies Partial<Record<keyof DynamicsBand, { title: string; shape: Record<string, z.ZodType> }>>;
type Part = keyof typeof PARTS;

/** Controls of a band by what they are about: the curve, how fast it is followed, how far it goes. */
const TABS = ['curve', 'times', 'range', 'all'] as const;
const CONTROLS: Record<Exclude<(typeof TABS)[number], 'all'>, readonly string[]> = {
  curve: ['thresholdDbfs', 'ratio'],
  times: ['attackMs', 'releaseMs'],
  range: ['rangeDb', 'kneeDb'],
};

const useTab = remembered('band-dynamics-controls', z.object({ tab: z.enum(TABS).default('curve') }));

/** Expansion, compression and limiting of each band as one curve, and what they do. */
export function BandDynamicsPanel({ stage, index }: PanelProps<'bandDynamics'>) {
  const editor = useEditor();
  const palette = usePalette();
  const { count, open } = useOpenBand();
  const { tab } = useTab();
  const { bands, linkPercent } = stage.settings;
  const band = bands[open];
  const openBand = (next: number) => editor.selection.openBand(next);
  const change = (label: string, part: Partial<DynamicsBand>) =>
    editor.lane.setStage(stage, `Band ${open + 1} ${label}`, {
      bands: bands.map((other, i) => (i === open ? { ...other, ...part } : other)),
    });
  const control = (part: Part, name: string) => {
    const { title, shape } = PARTS[part];
    const setting = (shape as Record<string, z.ZodType>)[name];
    if (!setting) return null;
    const quantity = describe(setting);
    const own = `${title} ${quantity.title.toLowerCase()}`;
    const values = band[part] as Record<string, number>;
    return (
      <StageQuantity
        key={`${part}.${name}`}
        stage={stage.id}
        control={`bands.${open}.${part}.${name}`}
        quantity={{ ...quantity, title: own }}
        value={values[name]}
        disabled={!band.on}
        onChange={(value) => change(own.toLowerCase(), { [part]: { ...values, [name]: value } })}
      />
    );
  };
  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={
        <>
          <Key color={palette.copper}>how loud the band is</Key>
          <Key color={palette.ink}>what becomes of it; gain reduction</Key>
        </>
      }
      picture={
        <Box
          sx={{
            ...{ position: 'absolute', inset: 0, display: 'grid' },
            gridTemplateRows: 'minmax(0, 4fr) minmax(0, 6fr) minmax(0, 3fr)',
          }}
        >
          <Box sx={{ position: 'relative' }}>
            <BandSpectrum
              index={index}
              open={open}
              onOpen={openBand}
              names={bands.slice(0, count).map((each, i) => `${i + 1}${works(each) ? '' : ' idle'}`)}
            />
          </Box>
          <Box
            sx={{
              ...{ display: 'grid', borderTop: 1, borderColor: 'divider' },
              // The open band has room for its points.
              gridTemplateColumns: bands
                .slice(0, count)
                .map((_, i) => `minmax(0, ${i === open ? 2 : 1}fr)`)
                .join(' '),
            }}
          >
            {bands.slice(0, count).map((each, i) => (
              <BandCurve
                key={i}
                index={index}
                number={i}
                band={each}
                open={i === open}
                onOpen={() => openBand(i)}
                onChange={change}
              />
            ))}
          </Box>
          <Box sx={{ position: 'relative', borderTop: 1, borderColor: 'divider' }}>
            <BandHistories index={index} bands={count} />
          </Box>
        </Box>
      }
    >
      <BandHead band={open} on={band.on} onSwitch={(on) => change(on ? 'on' : 'off', { on })} />
      <TabsRow
        label="Controls of the band"
        value={tab}
        titles={[
          ['curve', 'Curve'],
          ['times', 'Times'],
          ['range', 'Range and knee'],
          ['all', 'All bands'],
        ]}
        onChange={(next) => useTab.setState({ tab: next })}
      />
      {tab === 'all' ? (
        <>
          <StageQuantity
            stage={stage.id}
            control="linkPercent"
            quantity={describe(bandDynamicsSettings.shape.linkPercent)}
            value={linkPercent}
            onChange={(value) => editor.lane.setStage(stage, 'Stereo link', { linkPercent: value })}
          />
          <CrossoverPhase />
        </>
      ) : (
        <>
          {(Object.keys(PARTS) as Part[]).flatMap((part) => CONTROLS[tab].map((name) => control(part, name)))}
          {tab === 'curve' && (
            <StageQuantity
              stage={stage.id}
              control={`bands.${open}.makeupDb`}
              quantity={describe(dynamicsBand.shape.makeupDb)}
              value={band.makeupDb}
              disabled={!band.on}
              onChange={(makeupDb) => change('makeup', { makeupDb })}
            />
          )}
        </>
      )}
      <Reductions index={index} less="a higher threshold or a smaller range keeps the balance." />
    </StageFrame>
  );
}
