'use client';

import useMediaQuery from '@mui/material/useMediaQuery';

/**
 * How the workspace is laid out: `phone` to listen, see verdicts and deliver; `narrow` with the destinations folded away;
 * `full`; `wide` with meters and history open next to the stage.
 */
export type Layout = 'phone' | 'narrow' | 'full' | 'wide';

/** The layout that the window has room for. */
export function useLayout(): Layout {
  const phone = useMediaQuery('(max-width: 719px)', { noSsr: true });
  const narrow = useMediaQuery('(max-width: 1199px)', { noSsr: true });
  const wide = useMediaQuery('(min-width: 1680px) and (min-height: 900px)', { noSsr: true });
  if (phone) return 'phone';
  return narrow ? 'narrow' : wide ? 'wide' : 'full';
}
