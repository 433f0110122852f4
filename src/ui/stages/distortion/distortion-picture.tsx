'use client';

import Box from '@mui/material/Box';
import { BARE_DB, type DistortionReading } from '../../../core/measure/distortion';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { change, figure, hertz } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useTransport } from '../../track/context';
import { useDistortion } from './use-distortion';
import { drawDistortion } from './draw-distortion';

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
  const draw: Draw = (surface) => drawDistortion(surface, reading?.bands ?? [], palette);
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
        <Picture label="Distortion by third-octaves" draw={draw} />
      </Box>
    </Box>
  );
}
