'use client';

import { useColorScheme } from '@mui/material/styles';
import { DAYLIGHT, NIGHT, type Palette } from './palette';

/** The colours in use, for pictures that are drawn rather than styled. */
export function usePalette(): Palette {
  const { mode, systemMode } = useColorScheme();
  return (mode === 'system' ? systemMode : mode) === 'dark' ? NIGHT : DAYLIGHT;
}
