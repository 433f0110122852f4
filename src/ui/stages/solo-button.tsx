'use client';

import HeadphonesIcon from '@mui/icons-material/HeadphonesOutlined';
import ToggleButton from '@mui/material/ToggleButton';
import Tooltip from '@mui/material/Tooltip';
import { useAudition, useEditor } from '../track/context';
import { withKey } from '../track/key-table';

/** Lets only the region of the open stage or band be heard: the button says of what, the help why. */
export function SoloButton({ title, help }: { title: string; help: string }) {
  const editor = useEditor();
  const alone = useAudition((state) => state.soloRegion);
  return (
    <Tooltip title={withKey(help, 'solo')}>
      <ToggleButton
        value="alone"
        size="small"
        selected={alone}
        onChange={() => editor.audition.hearRegion(!alone)}
        sx={{
          ...{ py: 0, px: 1, textTransform: 'none', color: 'text.primary', gap: 0.5, lineHeight: '26px' },
          '&.Mui-selected, &.Mui-selected:hover': { bgcolor: 'warning.main', color: 'background.paper' },
        }}
      >
        <HeadphonesIcon sx={{ fontSize: 17 }} />
        {title}
      </ToggleButton>
    </Tooltip>
  );
}
