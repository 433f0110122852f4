'use client';

import Box from '@mui/material/Box';
import { z } from 'zod';
import { toneHarmonics } from '../../../core/stages/saturation/harmonics';
import type { SaturationSettings } from '../../../core/stages/saturation/settings';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { figure } from '../../kit/format';
import { usePalette } from '../../theme/use-palette';
import { remembered } from '../../kit/remembered';
import { TabsRow } from '../../kit/tabs-row';
import { drawHarmonics } from './draw-harmonics';

const COUNT = 12;
const LEVELS = [-24, -12, -6, 0];

const useTone = remembered('saturation-tone', z.object({ dbfs: z.number().default(-12) }));

/** Harmonics that a test tone gets at the present settings: even ones in copper, odd ones in ink. */
export function HarmonicsPicture({ settings }: { settings: SaturationSettings }) {
  const palette = usePalette();
  const { dbfs } = useTone();
  const levels = toneHarmonics(settings, dbfs, COUNT);
  const draw: Draw = (surface) => drawHarmonics(surface, levels, palette);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%', minHeight: 0 }}>
      <Box sx={{ flex: 1, minHeight: 0, position: 'relative' }}>
        <Picture label={`Harmonics of a test tone at ${figure(dbfs, 0)} dBFS`} draw={draw} />
      </Box>
      <Box sx={{ px: 2, pt: 0.5 }}>
        <TabsRow
          label="Level of the test tone"
          value={dbfs}
          titles={LEVELS.map((level): [number, string] => [level, `${figure(level, 0)} dBFS`])}
          onChange={(next) => useTone.setState({ dbfs: next })}
        />
      </Box>
    </Box>
  );
}
