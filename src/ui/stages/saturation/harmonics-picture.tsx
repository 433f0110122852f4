'use client';

import Box from '@mui/material/Box';
import { z } from 'zod';
import { toneHarmonics } from '../../../core/stages/saturation/harmonics';
import type { SaturationSettings } from '../../../core/stages/saturation/settings';
import { useCanvas } from '../../kit/use-canvas';
import { figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { remembered } from '../../kit/remembered';
import { TabsRow } from '../../kit/tabs-row';

const COUNT = 12;
const FLOOR_DB = -100;
const LEVELS = [-24, -12, -6, 0];

const useTone = remembered('saturation-tone', z.object({ dbfs: z.number().default(-12) }));

/** Harmonics that a test tone gets at the present settings: even ones in copper, odd ones in ink. */
export function HarmonicsPicture({ settings }: { settings: SaturationSettings }) {
  const palette = usePalette();
  const { dbfs } = useTone();
  const levels = toneHarmonics(settings, dbfs, COUNT);
  const canvas = useCanvas(({ context, width, height }) => {
    const [left, top, bottom] = [34, 6, 18];
    const y = (db: number) => top + (Math.max(FLOOR_DB, Math.min(0, db)) / FLOOR_DB) * (height - top - bottom);
    context.font = `10.5px ${FIGURE_FACE}`;
    for (const db of [0, -25, -50, -75, -100]) {
      context.fillStyle = palette.hairline;
      context.fillRect(left, y(db), width - left - 8, 1);
      context.fillStyle = palette.quiet;
      context.textAlign = 'right';
      context.fillText(figure(db, 0), left - 5, y(db) + 3.5);
    }
    const step = (width - left - 8) / COUNT;
    context.textAlign = 'right';
    context.fillStyle = palette.copper;
    context.fillText('even', width - 40, top + 12);
    context.fillStyle = palette.ink;
    context.fillText('odd', width - 12, top + 12);
    [0, ...levels].forEach((db, i) => {
      const odd = i % 2 === 0;
      context.fillStyle = i === 0 ? palette.patina : odd ? palette.ink : palette.copper;
      if (db > FLOOR_DB) context.fillRect(left + i * step + step * 0.3, y(db), step * 0.4, height - bottom - y(db));
      context.fillStyle = palette.quiet;
      context.textAlign = 'center';
      context.fillText(i === 0 ? 'tone' : `${i + 1}`, left + (i + 0.5) * step, height - 5);
    });
  }, false);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%', minHeight: 0 }}>
      <Box sx={{ flex: 1, minHeight: 0, position: 'relative' }}>
        <canvas
          ref={canvas}
          style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
          aria-label={`Harmonics of a test tone at ${figure(dbfs, 0)} dBFS`}
          role="img"
        />
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
