'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Tooltip from '@mui/material/Tooltip';

/** A setting with a few values to choose from, named at the left. */
export function ChoiceRow<Value extends string | number>({
  title,
  help,
  value,
  titles,
  onChange,
}: {
  title: string;
  help: string;
  value: Value;
  titles: Record<Value, string>;
  onChange: (value: Value) => void;
}) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', minHeight: 31, gap: 1 }}>
      <Tooltip title={help} placement="left">
        <Box component="span" sx={{ whiteSpace: 'nowrap', fontSize: 13 }}>
          {title}
        </Box>
      </Tooltip>
      <Select
        size="small"
        value={value}
        inputProps={{ 'aria-label': title }}
        sx={{ height: 26, fontSize: 12.5, bgcolor: 'background.paper' }}
        onChange={({ target }) => onChange(target.value as Value)}
      >
        {(Object.keys(titles) as Value[]).map((each) => (
          <MenuItem key={each} value={typeof value === 'number' ? Number(each) : each}>
            {titles[each]}
          </MenuItem>
        ))}
      </Select>
    </Box>
  );
}
