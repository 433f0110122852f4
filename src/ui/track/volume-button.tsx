'use client';

import VolumeDownIcon from '@mui/icons-material/VolumeDownOutlined';
import VolumeUpIcon from '@mui/icons-material/VolumeUpOutlined';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Popover from '@mui/material/Popover';
import Slider from '@mui/material/Slider';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { figure } from '../kit/format';
import { SwitchRow } from '../kit/switch-row';
import { withKey } from './key-table';
import { DIM_DB, listeningGainDb, LOWEST_VOLUME_DB, toggleDim, useVolume } from './volume';

/** How loud one listens, after all meters. */
export function VolumeButton() {
  const volume = useVolume();
  const [at, setAt] = useState<HTMLElement | null>(null);
  const words = `${figure(listeningGainDb(volume), 0)} dB`;
  const lowered = listeningGainDb(volume) < 0;
  return (
    <>
      <Tooltip title={`Listening volume: ${words}${volume.dimmed ? ', dimmed' : ''}. No meter follows it`}>
        <IconButton
          aria-label={`Listening volume ${words}`}
          onClick={({ currentTarget }) => setAt(currentTarget)}
          sx={{
            ...{ width: 30, height: 30, borderRadius: 1 },
            ...(volume.dimmed && {
              ...{ bgcolor: 'warning.main', color: 'background.paper' },
              '&:hover': { bgcolor: 'warning.main' },
            }),
          }}
        >
          {lowered ? <VolumeDownIcon sx={{ fontSize: 20 }} /> : <VolumeUpIcon sx={{ fontSize: 20 }} />}
        </IconButton>
      </Tooltip>
      <Popover
        open={at !== null}
        anchorEl={at}
        onClose={() => setAt(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'center' }}
        transformOrigin={{ vertical: 'top', horizontal: 'center' }}
      >
        <Box sx={{ p: 2, width: 280 }}>
          <Box sx={{ display: 'flex', justifyContent: 'space-between' }}>
            <Typography>Volume</Typography>
            <Typography color="textSecondary">{words}</Typography>
          </Box>
          <Slider
            size="small"
            aria-label="Listening volume"
            min={LOWEST_VOLUME_DB}
            max={0}
            step={1}
            value={volume.volumeDb}
            getAriaValueText={(value) => `${figure(value, 0)} dB`}
            onChange={(_, value) => useVolume.setState({ volumeDb: value })}
          />
          <Box sx={{ display: 'grid' }}>
            <SwitchRow
              title={withKey(`Dim by ${DIM_DB} dB`, 'dim')}
              help="For talking over the music without losing the volume you work at."
              on={volume.dimmed}
              onChange={toggleDim}
            />
          </Box>
          <Typography color="textSecondary" sx={{ fontSize: 12, mt: 0.5 }}>
            Meters, loudness matching and deliveries stay as they are.
          </Typography>
        </Box>
      </Popover>
    </>
  );
}
