'use client';

import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import type { ReactNode } from 'react';

/** Chooses which group of controls is shown. */
export function TabsRow<Tab extends string | number>({
  label,
  value,
  titles,
  onChange,
}: {
  label: string;
  value: Tab;
  titles: [Tab, ReactNode][];
  onChange: (tab: Tab) => void;
}) {
  return (
    <ToggleButtonGroup
      exclusive
      fullWidth
      size="small"
      value={value}
      aria-label={label}
      onChange={(_, next: Tab | null) => next !== null && onChange(next)}
      sx={{
        mb: 0.5,
        flexShrink: 0,
        '& .MuiToggleButton-root': {
          textTransform: 'none',
          py: 0,
          px: 0.5,
          whiteSpace: 'nowrap',
          color: 'text.primary',
          lineHeight: '24px',
        },
        '& .MuiToggleButton-root.Mui-selected': { bgcolor: 'text.primary', color: 'background.paper' },
        '& .MuiToggleButton-root.Mui-selected:hover': { bgcolor: 'text.primary' },
      }}
    >
      {titles.map(([tab, title]) => (
        <ToggleButton key={tab} value={tab}>
          {title}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}
