'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Tooltip from '@mui/material/Tooltip';
import type { Choice } from '../../core/stages/setting';

/** A setting with a few values to choose from, its name on the left; the help is that of the value, else of the setting. */
export function ChoiceRow<Value extends string | number>({
  choice: { title, help, options },
  value,
  onChange,
}: {
  choice: Pick<Choice<Value>, 'title' | 'help' | 'options'>;
  value: Value;
  onChange: (value: Value) => void;
}) {
  const chosen = options.find((option) => option.value === value);
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', minHeight: 31, gap: 1 }}>
      <Tooltip title={chosen?.help ?? help} placement="left">
        <Box component="span" sx={{ whiteSpace: 'nowrap', fontSize: 13 }}>
          {title}
        </Box>
      </Tooltip>
      <Select
        size="small"
        value={value}
        inputProps={{ 'aria-label': title }}
        sx={{ height: 26, fontSize: 12.5, bgcolor: 'background.paper', minWidth: 0 }}
        onChange={({ target }) => onChange(target.value as Value)}
      >
        {options.map((option) => (
          <MenuItem key={option.value} value={option.value}>
            {option.title}
          </MenuItem>
        ))}
      </Select>
    </Box>
  );
}
