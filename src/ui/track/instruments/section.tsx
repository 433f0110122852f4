'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Tooltip from '@mui/material/Tooltip';
import type { ReactNode } from 'react';

/** A choice in the head of an instrument. */
export function Choice<T extends string | number | null>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}) {
  const keys = options.map(([option]) => String(option));
  return (
    <Select
      size="small"
      variant="standard"
      disableUnderline
      value={String(value)}
      inputProps={{ 'aria-label': label }}
      onChange={({ target }) => onChange(options[keys.indexOf(target.value)][0])}
      sx={{ fontSize: 12.5, '& .MuiSelect-select': { py: 0, minHeight: 24, lineHeight: '24px' } }}
    >
      {options.map(([, title], i) => (
        <MenuItem key={keys[i]} value={keys[i]}>
          {title}
        </MenuItem>
      ))}
    </Select>
  );
}

/** An instrument with its choices. */
export function Section({ title, help, controls, children }: SectionProps) {
  return (
    <Box component="section" aria-label={title} sx={{ borderTop: 1, borderColor: 'divider', pt: 0.5, mb: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, fontSize: 12.5, minHeight: 24 }}>
        <Tooltip title={help} placement="top-start">
          <b>{title}</b>
        </Tooltip>
        {controls}
      </Box>
      {children}
    </Box>
  );
}

interface SectionProps {
  title: string;
  /** What it tells, and what it does not. */
  help: string;
  controls?: ReactNode;
  children: ReactNode;
}

/** Two places side by side, or under each other where there is little room. */
export const PLACES_BESIDE = 'repeat(auto-fit, minmax(260px, 1fr))';

/** Both places side by side, each drawn by `picture`. */
export function Pair({ height, picture }: { height?: number; picture: (place: 0 | 1) => ReactNode }) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: PLACES_BESIDE, columnGap: 3, rowGap: 1 }}>
      {([0, 1] as const).map((place) => (
        <Box key={place} sx={{ position: 'relative', height }}>
          {picture(place)}
        </Box>
      ))}
    </Box>
  );
}
