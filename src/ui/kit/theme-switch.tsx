'use client';

import DarkModeIcon from '@mui/icons-material/DarkModeOutlined';
import LightModeIcon from '@mui/icons-material/LightModeOutlined';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import { useColorScheme } from '@mui/material/styles';

/** Daylight or night; remembered. */
export function ThemeSwitch() {
  const { mode, systemMode, setMode } = useColorScheme();
  const night = (mode === 'system' ? systemMode : mode) === 'dark';
  const title = night ? 'Daylight theme' : 'Night theme';
  return (
    <Tooltip title={title}>
      <IconButton size="small" color="inherit" aria-label={title} onClick={() => setMode(night ? 'light' : 'dark')}>
        {night ? <LightModeIcon fontSize="small" /> : <DarkModeIcon fontSize="small" />}
      </IconButton>
    </Tooltip>
  );
}
