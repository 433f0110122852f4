'use client';

import Box from '@mui/material/Box';
import type { z } from 'zod';
import { z as schema } from 'zod';
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
import { BandHistories } from './band-histories';
import { useOpenBand } from '../bands/use-open-band';

const PARTS = ['expansion', 'compression', 'limiting'] as const;
type Part = (typeof PARTS)[number];
type Tab = Part | 'all';
const SHAPES: Record<Part, Record<string, z.ZodType>> = {
  expansion: bandExpansion.shape,
  compression: bandCompression.shape,
  limiting: bandLimiting.shape,
};
const TITLES: Record<Part, string> = { expansion: 'Expand', compression: 'Compress', limiting: 'Limit' };

const useTab = remembered(
  'band-dynamics-controls',
  schema.object({ tab: schema.enum([...PARTS, 'all']).default('compression') }),
);

/** What a part of a band does, at a glance. */
function isActive(band: DynamicsBand, part: Part): boolean {
  return part === 'limiting' ? band.limiting.thresholdDbfs < 0 : band[part].ratio > 1;
}

/** Expansion, compression and limiting of each band, and what they do. */
export function BandDynamicsPanel({ stage, index }: PanelProps<'bandDynamics'>) {
  const editor = useEditor();
  const palette = usePalette();
  const { count, open } = useOpenBand();
  const { tab } = useTab();
  const { bands, linkPercent } = stage.settings;
  const band = bands[open];
  const change = (label: string, part: Partial<DynamicsBand>) =>
    editor.lane.setStage(stage, `Band ${open + 1} ${label}`, {
      bands: bands.map((other, i) => (i === open ? { ...other, ...part } : other)),
    });
  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={<Key color={palette.ink}>gain reduction of each band, peaks held</Key>}
      picture={
        <Box
          sx={{ position: 'absolute', inset: 0, display: 'grid', gridTemplateRows: 'minmax(0, 4fr) minmax(0, 3fr)' }}
        >
          <Box sx={{ position: 'relative' }}>
            <BandSpectrum
              index={index}
              open={open}
              onOpen={(next) => editor.selection.openBand(next)}
              names={bands.slice(0, count).map((each, i) => `${i + 1}${works(each) ? '' : ' idle'}`)}
            />
          </Box>
          <Box sx={{ position: 'relative', borderTop: 1, borderColor: 'divider' }}>
            <BandHistories index={index} bands={count} />
          </Box>
        </Box>
      }
    >
      <BandHead band={open} on={band.on} onSwitch={(on) => change(on ? 'on' : 'off', { on })} />
      <TabsRow
        label="Dynamics of the band"
        value={tab}
        titles={[
          ...PARTS.map((part): [Tab, string] => [part, `${TITLES[part]}${isActive(band, part) ? ' •' : ''}`]),
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
          {Object.entries(SHAPES[tab]).map(([name, setting]) => {
            const quantity = describe(setting);
            const values = band[tab] as Record<string, number>;
            return (
              <StageQuantity
                key={`${tab}.${name}`}
                stage={stage.id}
                control={`bands.${open}.${tab}.${name}`}
                quantity={quantity}
                value={values[name]}
                disabled={!band.on}
                onChange={(value) =>
                  change(`${tab} ${quantity.title.toLowerCase()}`, { [tab]: { ...values, [name]: value } })
                }
              />
            );
          })}
          <StageQuantity
            stage={stage.id}
            control={`bands.${open}.makeupDb`}
            quantity={describe(dynamicsBand.shape.makeupDb)}
            value={band.makeupDb}
            disabled={!band.on}
            onChange={(makeupDb) => change('makeup', { makeupDb })}
          />
        </>
      )}
      <Reductions index={index} less="a higher threshold or a smaller range keeps the balance." />
    </StageFrame>
  );
}
