'use client';

import Box from '@mui/material/Box';
import { FIGURE_FACE } from '../theme/theme';

/** A measured value with its name and unit, figures aligned to the right. */
export function Reading({ name, value, unit, color }: { name: string; value: string; unit?: string; color?: string }) {
  return (
    <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2, lineHeight: 1.55 }}>
      <Box component="dt" sx={{ color: 'text.secondary' }}>
        {name}
      </Box>
      <Box component="dd" sx={{ m: 0, fontFamily: FIGURE_FACE, color: color ?? 'text.primary', whiteSpace: 'nowrap' }}>
        {value}
        {unit && (
          <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.88em' }}>
            {' '}
            {unit}
          </Box>
        )}
      </Box>
    </Box>
  );
}
