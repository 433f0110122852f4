'use client';

import Box from '@mui/material/Box';
import { useEffect, useRef, type KeyboardEvent } from 'react';
import { figure, hertz } from '../../kit/format';
import { useDrag } from '../../kit/use-drag';
import { FIGURE_FACE } from '../../theme/theme';
import { frequencyUnder, heldFrequency, HIGH, LEFT, LOW, RIGHT, shareOf } from './equalizer-axes';
import { useSweepSettings, type Sweep } from './use-sweep';

const KEY_START_HZ = 2000;

/** Lies over the picture while the sweep is armed: press and move to search, let go to cut. */
export function SweepSurface({ sweep }: { sweep: Sweep }) {
  const { boostDb, cutDb } = useSweepSettings();
  const surface = useRef<HTMLDivElement>(null);
  useEffect(() => surface.current?.focus(), []);
  const { frequencyHz } = sweep;
  const drag = useDrag(({ xy: [x], last, event }) => {
    if (!last) sweep.search(frequencyUnder(surface.current!, x));
    else if (event.type === 'pointercancel') sweep.cancel();
    else sweep.settle();
  });
  const keys = (event: KeyboardEvent) => {
    const at = frequencyHz ?? KEY_START_HZ;
    const step = 2 ** (event.shiftKey ? 1 / 96 : 1 / 24);
    const actions: Record<string, () => void> = {
      ArrowLeft: () => sweep.search(heldFrequency(at / step)),
      ArrowRight: () => sweep.search(heldFrequency(at * step)),
      Enter: () => sweep.settle(),
      Escape: () => sweep.cancel(),
    };
    if (!actions[event.key]) return;
    actions[event.key]();
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Box
      ref={surface}
      role="slider"
      tabIndex={0}
      aria-label="Sweep (arrow keys search, Enter cuts there, Escape leaves)"
      aria-valuemin={LOW}
      aria-valuemax={HIGH}
      aria-valuenow={frequencyHz ?? KEY_START_HZ}
      aria-valuetext={frequencyHz === null ? 'idle' : `${figure(frequencyHz, 0)} Hz`}
      {...drag()}
      onKeyDown={keys}
      sx={{ position: 'absolute', inset: 0, cursor: 'ew-resize', touchAction: 'none', outlineOffset: -2, zIndex: 2 }}
    >
      {frequencyHz !== null && (
        <Box
          sx={{ position: 'absolute', top: 0, bottom: 0, borderLeft: 2, borderColor: 'warning.main' }}
          style={{ left: `calc(${LEFT}px + (100% - ${LEFT + RIGHT}px) * ${shareOf(frequencyHz)})` }}
        />
      )}
      <Box
        sx={{
          ...{ position: 'absolute', top: 10, left: '50%', transform: 'translateX(-50%)', px: 1.5, py: 0.5 },
          ...{ bgcolor: 'text.primary', color: 'background.paper', borderRadius: 1.5, fontSize: 12.5 },
          ...{ whiteSpace: 'nowrap', pointerEvents: 'none' },
        }}
      >
        {frequencyHz === null ? (
          'Press here and drag until it rings'
        ) : (
          <>
            <Box component="span" sx={{ fontFamily: FIGURE_FACE }}>
              {hertz(frequencyHz)}Hz +{figure(boostDb)} dB
            </Box>
            {` · let go: ${figure(cutDb)} dB cut here`}
          </>
        )}
      </Box>
    </Box>
  );
}
