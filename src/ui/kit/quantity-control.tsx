'use client';

import Box from '@mui/material/Box';
import Slider from '@mui/material/Slider';
import Tooltip from '@mui/material/Tooltip';
import { useGesture } from '@use-gesture/react';
import { useRef, useState } from 'react';
import type { Quantity } from '../../core/stages/setting';
import { figure } from './format';
import { FIGURE_FACE } from '../theme/theme';
import { PinScale, type ControlPins } from './pin-scale';

export interface QuantityControlProps {
  quantity: Quantity;
  value: number;
  onChange: (value: number) => void;
  /** Told when a move has ended. */
  onCommit?: () => void;
  disabled?: boolean;
  pins?: ControlPins;
}

const POSITIONS = 1000;

/** Decimals that show every step. */
function decimalsOf(step: number): number {
  return step >= 1 ? 0 : step >= 0.1 ? 1 : 2;
}

/**
 * A horizontal slider with a field for the exact value. Double-click: default. Shift: fine. Wheel and arrow keys: steps. A
 * press on the scale below sets a pin there, Enter on the slider one at its value.
 */
export function QuantityControl({ quantity, value, onChange, onCommit, disabled, pins }: QuantityControlProps) {
  const { title, unit, min, max, step, scale, help } = quantity;
  const logarithmic = scale === 'logarithmic';
  const decimals = decimalsOf(step);
  const toPosition = (v: number) =>
    POSITIONS * (logarithmic ? Math.log(v / min) / Math.log(max / min) : (v - min) / (max - min));
  const fromPosition = (p: number) =>
    logarithmic ? min * (max / min) ** (p / POSITIONS) : min + ((max - min) * p) / POSITIONS;
  const set = (next: number) => {
    const held = Math.min(max, Math.max(min, next));
    const rounded = Number((Math.round(held / step) * step).toFixed(decimals));
    if (rounded !== value) onChange(Math.min(max, Math.max(min, rounded)));
  };

  const [text, setText] = useState<string | null>(null);
  const finishText = () => {
    if (text === null) return;
    const parsed = Number(text.replace('\u2212', '-').replace(',', '.').replace(/\s/g, ''));
    setText(null);
    if (text.trim() !== '' && Number.isFinite(parsed)) {
      set(parsed);
      onCommit?.();
    }
  };

  const nudge = (direction: number, fine: boolean, coarse: boolean) => {
    const factor = fine ? 1 : coarse ? 20 : 5;
    if (logarithmic)
      set(
        Math.abs(value * 1.01 ** factor - value) < step
          ? value + direction * step
          : value * 1.01 ** (factor * direction),
      );
    else set(value + direction * step * factor);
  };

  const sliderBox = useRef<HTMLDivElement>(null);
  useGesture(
    {
      onWheel({ event, last, shiftKey }) {
        // The end of turning is told once more, with the same event.
        if (disabled || last) return;
        // Not passive, so that the page does not scroll along.
        event.preventDefault();
        nudge(event.deltaY + event.deltaX < 0 ? 1 : -1, shiftKey, false);
        onCommit?.();
      },
    },
    { target: sliderBox, eventOptions: { passive: false } },
  );

  const addPin = (at: number) => {
    if (!pins || disabled) return;
    const held = Math.min(max, Math.max(min, Number((Math.round(at / step) * step).toFixed(decimals))));
    if (!pins.values.includes(held)) pins.onChange([...pins.values, held]);
  };

  const fineFrom = useRef<{ position: number; value: number } | null>(null);
  return (
    <Box
      sx={{
        ...{
          opacity: disabled ? 0.5 : 1,
          display: 'grid',
          gridTemplateColumns: 'minmax(74px, auto) 1fr 92px',
          alignItems: 'center',
        },
        ...{ columnGap: 1, minHeight: 30 },
      }}
    >
      <Tooltip title={help} placement="left">
        <Box component="span" sx={{ fontSize: 13, whiteSpace: 'nowrap' }}>
          {title}
        </Box>
      </Tooltip>
      <Box ref={sliderBox} onDoubleClick={() => (set(quantity.default), onCommit?.())} sx={{ px: 0.75 }}>
        <Slider
          size="small"
          disabled={disabled}
          aria-label={title}
          min={0}
          max={POSITIONS}
          step={0.1}
          track={false}
          value={toPosition(value)}
          getAriaValueText={() => `${figure(value, decimals)} ${unit}`}
          onChange={(event, position) => {
            const p = position;
            const fine = event instanceof MouseEvent && event.shiftKey;
            if (!fine) {
              fineFrom.current = null;
              return set(fromPosition(p));
            }
            fineFrom.current ??= { position: p, value };
            set(fromPosition(toPosition(fineFrom.current.value) + (p - fineFrom.current.position) / 10));
          }}
          onChangeCommitted={() => {
            fineFrom.current = null;
            onCommit?.();
          }}
          onKeyDownCapture={(event) => {
            if (event.key === 'Enter') return addPin(value);
            const direction = { ArrowRight: 1, ArrowUp: 1, PageUp: 1, ArrowLeft: -1, ArrowDown: -1, PageDown: -1 }[
              event.key
            ];
            if (direction === undefined) return;
            // The slider's own keys would step by position first.
            event.preventDefault();
            event.stopPropagation();
            nudge(direction, event.shiftKey, event.key.startsWith('Page'));
            onCommit?.();
          }}
          sx={{
            color: 'text.primary',
            py: '7px',
            display: 'block',
            '& .MuiSlider-rail': { height: 3, opacity: 1, bgcolor: 'divider' },
            '& .MuiSlider-thumb': {
              width: 10,
              height: 16,
              borderRadius: '3px',
              bgcolor: 'background.paper',
              border: '1.5px solid',
              borderColor: 'text.primary',
              boxShadow: 'none',
            },
          }}
        />
        {pins && (
          <PinScale
            pins={pins}
            quantity={quantity}
            toShare={(v) => toPosition(v) / POSITIONS}
            onSet={addPin}
            onReturn={(v) => (set(v), onCommit?.())}
            fromShare={(share) => fromPosition(share * POSITIONS)}
          />
        )}
      </Box>
      <Box
        component="label"
        sx={{
          display: 'inline-flex',
          justifyContent: 'flex-end',
          alignItems: 'baseline',
          border: 1,
          borderColor: 'divider',
          borderRadius: 1,
          bgcolor: 'background.paper',
          px: 0.75,
          py: 0.125,
        }}
      >
        <Box
          component="input"
          inputMode="decimal"
          aria-label={`${title} value`}
          disabled={disabled}
          value={text ?? figure(value, decimals)}
          onFocus={(event) => {
            setText(figure(value, decimals));
            event.target.select();
          }}
          onChange={(event) => setText(event.target.value)}
          onBlur={finishText}
          onKeyDown={(event) => {
            if (event.key === 'Enter') {
              finishText();
              event.currentTarget.blur();
            }
            if (event.key === 'Escape') {
              setText(null);
              event.currentTarget.blur();
            }
          }}
          sx={{
            width: '7ch',
            border: 0,
            outlineOffset: 4,
            bgcolor: 'transparent',
            color: 'text.primary',
            font: `500 13px ${FIGURE_FACE}`,
            textAlign: 'right',
            p: 0,
          }}
        />
        <Box component="span" sx={{ color: 'text.secondary', fontSize: 12, ml: unit ? 0.5 : 0 }}>
          {unit}
        </Box>
      </Box>
    </Box>
  );
}
