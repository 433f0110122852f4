'use client';

import Box from '@mui/material/Box';
import Tooltip from '@mui/material/Tooltip';
import type { Quantity } from '../../core/stages/setting';
import { figure } from './format';

/** Remembered positions of a control. */
export interface ControlPins {
  values: number[];
  onChange(values: number[]): void;
}

const TICKS = [0, 0.25, 0.5, 0.75, 1];

/** The scale below a slider: a press sets a pin, a press on a pin returns to it, Delete takes it away. */
export function PinScale({
  pins,
  quantity: { title, unit, step, default: normal },
  toShare,
  fromShare,
  onSet,
  onReturn,
}: {
  pins: ControlPins;
  quantity: Quantity;
  /** Place of a value on the scale, 0 … 1, and the value at a place. */
  toShare: (value: number) => number;
  fromShare: (share: number) => number;
  onSet: (value: number) => void;
  onReturn: (value: number) => void;
}) {
  const decimals = step >= 1 ? 0 : step >= 0.1 ? 1 : 2;
  const remove = (value: number) => pins.onChange(pins.values.filter((other) => other !== value));
  return (
    <Box
      onClick={({ clientX, currentTarget }) => {
        const { left, width } = currentTarget.getBoundingClientRect();
        onSet(fromShare(Math.min(1, Math.max(0, (clientX - left) / width))));
      }}
      onDoubleClick={(event) => event.stopPropagation()}
      data-testid={`${title} scale`}
      sx={{ position: 'relative', height: 9, mt: '-3px', cursor: 'copy' }}
    >
      {TICKS.map((share) => (
        <Tick key={share} share={share} tall={false} />
      ))}
      <Tick share={toShare(normal)} tall />
      {pins.values.map((value) => {
        const text = `${figure(value, decimals)}${unit ? ` ${unit}` : ''}`;
        return (
          <Tooltip key={value} title={`Pin: press to go back to ${text}, Delete removes it`}>
            <Box
              component="button"
              // The slider's own keys visit and remove pins.
              tabIndex={-1}
              aria-label={`${title} pin at ${text}`}
              onClick={(event) => {
                event.stopPropagation();
                onReturn(value);
              }}
              onKeyDown={(event) => {
                if (event.key !== 'Delete' && event.key !== 'Backspace') return;
                event.preventDefault();
                event.stopPropagation();
                remove(value);
              }}
              onContextMenu={(event) => {
                event.preventDefault();
                remove(value);
              }}
              sx={{
                ...{ position: 'absolute', top: 0, width: 9, height: 9, ml: '-4.5px', p: 0, border: 0 },
                bgcolor: 'secondary.main',
                clipPath: 'polygon(50% 0, 100% 45%, 100% 100%, 0 100%, 0 45%)',
                cursor: 'pointer',
                '&:focus-visible': { bgcolor: 'text.primary' },
              }}
              style={{ left: `${toShare(value) * 100}%` }}
            />
          </Tooltip>
        );
      })}
    </Box>
  );
}

function Tick({ share, tall }: { share: number; tall: boolean }) {
  return (
    <Box
      aria-hidden
      sx={{
        ...{ position: 'absolute', top: 1, width: '1px', height: tall ? 7 : 4, pointerEvents: 'none' },
        bgcolor: tall ? 'text.secondary' : 'divider',
      }}
      style={{ left: `${share * 100}%` }}
    />
  );
}
