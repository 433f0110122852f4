'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Popover from '@mui/material/Popover';
import Select from '@mui/material/Select';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useState, type ReactNode } from 'react';
import { useTrack } from '../../track/context';
import { LAYERS, RESOLUTIONS, TILTS, useSpectrumChoice, type Layer, type Resolution } from './spectrum-choice';

const LAYER_TITLES: Record<Layer, [title: string, what: string]> = {
  before: ['Before', 'the stage’s input, copper'],
  after: ['After', 'its output, patina'],
  difference: ['Difference', 'output minus input, on the curve’s scale'],
  held: ['Held peaks', 'the highest output so far'],
  average: ['Whole track', 'average of the whole track, dotted'],
};

const NONE = '';

const RESOLUTION_TITLES: Record<Resolution, string> = { fine: 'Fine', medium: 'Medium', coarse: 'Coarse' };

function Choice<T extends string | number>({
  title,
  value,
  choices,
  onChange,
}: {
  title: string;
  value: T;
  choices: [T, ReactNode][];
  onChange: (value: T) => void;
}) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', gap: 2, mt: 1 }}>
      <span>{title}</span>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={value}
        aria-label={title}
        onChange={(_, next: T | null) => next !== null && onChange(next)}
        sx={{ '& .MuiToggleButton-root': { textTransform: 'none', py: 0.125, px: 1.25, color: 'text.primary' } }}
      >
        {choices.map(([choice, label]) => (
          <ToggleButton key={choice} value={choice}>
            {label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Box>
  );
}

/** Chooses what of the spectrum is drawn behind the curve. */
export function SpectrumMenu({ onRelease }: { onRelease: () => void }) {
  const { layers, resolution, tiltDb, referenceId } = useSpectrumChoice();
  const references = useTrack((state) => state.details.references).filter(({ report }) => report !== null);
  const set = useSpectrumChoice.setState;
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button color="inherit" aria-haspopup="dialog" onClick={(event) => setAnchor(event.currentTarget)}>
        Spectrum
      </Button>
      <Popover
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <Box role="dialog" aria-label="Spectrum" sx={{ p: 2, width: 380, fontSize: 13 }}>
          {LAYERS.map((layer) => {
            const [title, what] = LAYER_TITLES[layer];
            return (
              <FormControlLabel
                key={layer}
                sx={{ display: 'flex', my: -0.5 }}
                disableTypography
                control={
                  <Checkbox
                    size="small"
                    checked={layers.includes(layer)}
                    slotProps={{ input: { 'aria-label': title } }}
                    onChange={(_, on) =>
                      set({ layers: LAYERS.filter((other) => (other === layer ? on : layers.includes(other))) })
                    }
                  />
                }
                label={
                  <span>
                    {title}
                    <Box component="span" sx={{ color: 'text.secondary' }}>
                      {' '}
                      {what}
                    </Box>
                  </span>
                }
              />
            );
          })}
          {references.length > 0 && (
            <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', gap: 2, mt: 1 }}>
              <span>Reference, whole, at equal loudness</span>
              <Select
                size="small"
                variant="standard"
                displayEmpty
                value={references.some(({ id }) => id === referenceId) ? referenceId : NONE}
                inputProps={{ 'aria-label': 'Reference in the picture' }}
                onChange={({ target }) => set({ referenceId: target.value === NONE ? null : target.value })}
                sx={{ fontSize: 13, maxWidth: 150 }}
              >
                <MenuItem value={NONE}>none</MenuItem>
                {references.map(({ id, title }) => (
                  <MenuItem key={id} value={id}>
                    {title}
                  </MenuItem>
                ))}
              </Select>
            </Box>
          )}
          <Choice
            title="Resolution"
            value={resolution}
            choices={RESOLUTIONS.map((each) => [each, RESOLUTION_TITLES[each]])}
            onChange={(next) => set({ resolution: next })}
          />
          <Choice
            title="Tilt, dB per octave"
            value={tiltDb}
            choices={TILTS.map((each) => [each, each])}
            onChange={(next) => set({ tiltDb: next })}
          />
          <Box sx={{ color: 'text.secondary', mt: 1 }}>
            Music falls off towards the highs; with 3 or 4.5 dB/octave a balanced mix looks flat.
          </Box>
          <Button color="inherit" onClick={onRelease} sx={{ mt: 0.5, ml: -0.75 }}>
            Clear held peaks
          </Button>
        </Box>
      </Popover>
    </>
  );
}
