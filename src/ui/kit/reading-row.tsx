'use client';

import Box from '@mui/material/Box';
import { readingText, readingUnit, type Reading } from '../../core/measure/reading';
import { FIGURE_FACE } from '../theme/theme';

/** What was measured, or a text in its place, with its name; figures aligned to the right. */
export function ReadingRow({ name, of, color }: { name: string; of: Reading | string; color?: string }) {
  const unit = typeof of === 'string' ? '' : readingUnit(of);
  return (
    <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2, lineHeight: 1.55 }}>
      <Box component="dt" sx={{ color: 'text.secondary' }}>
        {name}
      </Box>
      <Box component="dd" sx={{ m: 0, fontFamily: FIGURE_FACE, color: color ?? 'text.primary', whiteSpace: 'nowrap' }}>
        {typeof of === 'string' ? of : readingText(of)}
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
