'use client';

import Box from '@mui/material/Box';
import { BARE_DB, type DistortionReading } from '../../../core/measure/distortion';
import { useCanvas } from '../../kit/use-canvas';
import { change, figure, hertz } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useTransport } from '../../track/context';
import { useDistortion } from './use-distortion';

const TOP_DBFS = -12;
const FLOOR_DBFS = -90;
const NAMED_HZ = [100, 1000, 10000];

/** What the distortion means for this material, in words. */
export function distortionWords({ totalDb, barest }: DistortionReading): string {
  if (totalDb === -Infinity || !barest) return 'No audible distortion';
  const where = `near ${hertz(barest.hz)} Hz`;
  if (barest.db > 0) return `Exposed: ${figure(barest.db)} dB above the music ${where}`;
  if (barest.db > BARE_DB) return `Nearly exposed: only ${figure(-barest.db)} dB below the music ${where}`;
  return `Masked by the music: at least ${figure(-barest.db)} dB below it`;
}

/** Third-octaves of the music, and of the distortion that a stage adds to it. */
export function DistortionPicture({ index }: { index: number }) {
  const palette = usePalette();
  const reading = useDistortion(index);
  const playing = useTransport((state) => state.playing);
  const canvas = useCanvas(({ context, width, height }) => {
    const bands = reading?.bands ?? [];
    const [left, right, top, bottom] = [34, 8, 6, 18];
    const y = (dbfs: number) =>
      top +
      ((TOP_DBFS - Math.max(FLOOR_DBFS, Math.min(TOP_DBFS, dbfs))) / (TOP_DBFS - FLOOR_DBFS)) * (height - top - bottom);
    context.font = `10.5px ${FIGURE_FACE}`;
    context.textAlign = 'right';
    for (const db of [-20, -40, -60, -80]) {
      context.fillStyle = palette.hairline;
      context.fillRect(left, y(db), width - left - right, 1);
      context.fillStyle = palette.quiet;
      context.fillText(figure(db, 0), left - 5, y(db) + 3.5);
    }
    const step = (width - left - right) / Math.max(1, bands.length);
    context.textAlign = 'center';
    bands.forEach(({ hz, programmeDbfs, distortionDbfs }, i) => {
      const x = left + i * step;
      context.fillStyle = palette.patina;
      context.globalAlpha = 0.35;
      context.fillRect(x + 1, y(programmeDbfs), step - 2, height - bottom - y(programmeDbfs));
      context.globalAlpha = 1;
      context.fillRect(x + 1, y(programmeDbfs), step - 2, 1.5);
      context.fillStyle = palette.copper;
      if (distortionDbfs > FLOOR_DBFS)
        context.fillRect(x + step * 0.28, y(distortionDbfs), step * 0.44, height - bottom - y(distortionDbfs));
      context.fillStyle = palette.quiet;
      if (NAMED_HZ.some((named) => Math.abs(hz / named - 1) < 0.02))
        context.fillText(hertz(hz), x + step / 2, height - 5);
    });
  }, false);
  const bare = reading?.barest && reading.barest.db > BARE_DB;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%', minHeight: 0 }}>
      <Box sx={{ px: 2, pt: 0.5, fontSize: 12, display: 'flex', justifyContent: 'space-between', gap: 2 }}>
        <Box component="span" sx={{ color: bare ? 'warning.main' : 'text.primary', fontWeight: 600 }}>
          {bare ? '▲ ' : ''}
          {reading ? distortionWords(reading) : playing ? 'Listening…' : 'Not measured yet'}
        </Box>
        {reading && reading.totalDb > -Infinity && (
          <Box component="span" sx={{ color: 'text.secondary', whiteSpace: 'nowrap' }}>
            distortion <span style={{ fontFamily: FIGURE_FACE }}>{change(reading.totalDb)}</span> dB of the music,{' '}
            {playing ? 'as just played' : 'loudest passage'}
          </Box>
        )}
      </Box>
      <Box sx={{ flex: 1, minHeight: 0, position: 'relative' }}>
        <canvas
          ref={canvas}
          style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
          aria-label="Distortion by third-octaves"
          role="img"
        />
      </Box>
    </Box>
  );
}
