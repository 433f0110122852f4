'use client';

import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Tooltip from '@mui/material/Tooltip';

/** A setting that is on or off, its name on the left. */
export function SwitchRow({
  title,
  help,
  on,
  onChange,
}: {
  title: string;
  help: string;
  on: boolean;
  onChange: (on: boolean) => void;
}) {
  return (
    <Tooltip title={help} placement="left">
      <FormControlLabel
        label={title}
        disableTypography
        sx={{ m: 0, minHeight: 28, fontSize: 13, flexDirection: 'row-reverse', justifyContent: 'space-between' }}
        control={<Switch size="small" checked={on} onChange={(_, next) => onChange(next)} />}
      />
    </Tooltip>
  );
}
