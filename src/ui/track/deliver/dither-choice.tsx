'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useState } from 'react';
import type { Destination } from '../../../core/deliver/destination';
import { DITHERS, type Dither } from '../../../core/deliver/dither';
import { ChoiceRow } from '../../kit/choice-row';
import { DitherComparison } from './dither-comparison';
import { DITHER_HELP, DITHER_TITLES } from './dither-words';

/** How the word length is reduced. */
export interface Dithering {
  dither: Dither;
  digitalSilence: boolean;
}

const CHOICE = {
  title: 'Dither',
  help: 'What is added before the word length is reduced.',
  options: DITHERS.map((value) => ({ value, title: DITHER_TITLES[value], help: DITHER_HELP[value] })),
};

/** Chooses how the word length of a delivery is reduced, with the reasons on request. */
export function DitherChoice({
  dithering: { dither, digitalSilence },
  destination,
  onChange,
}: {
  dithering: Dithering;
  destination: Destination;
  onChange: (dithering: Dithering) => void;
}) {
  const [comparing, setComparing] = useState(false);
  return (
    <Box component="section" aria-label="Dither" sx={{ mt: 1, borderTop: 1, borderColor: 'divider', pt: 1 }}>
      <ChoiceRow choice={CHOICE} value={dither} onChange={(value) => onChange({ dither: value, digitalSilence })} />
      <Box sx={{ fontSize: 13, color: 'text.secondary' }}>{DITHER_HELP[dither]}</Box>
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
        <FormControlLabel
          control={
            <Checkbox
              size="small"
              checked={digitalSilence}
              onChange={(_, value) => onChange({ dither, digitalSilence: value })}
            />
          }
          label="Zeros where the master is silent"
        />
        <Button color="inherit" aria-expanded={comparing} onClick={() => setComparing(!comparing)}>
          {comparing ? 'Hide the comparison' : 'Compare dithers'}
        </Button>
      </Box>
      {comparing && <DitherComparison chosen={dither} destination={destination} />}
    </Box>
  );
}
