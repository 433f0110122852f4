'use client';

import Box from '@mui/material/Box';
import Slider from '@mui/material/Slider';
import Tooltip from '@mui/material/Tooltip';
import { useGesture } from '@use-gesture/react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import type { Quantity } from '../../core/stages/setting';
import { figure } from './format';
import { HIDDEN } from './hidden';
import { FIGURE_FACE, FOCUS_RING } from '../theme/theme';
import { sliderScale } from './slider-scale';
import { PinScale, type ControlPins } from './pin-scale';
import { decimalsOf, heldInRange, typedValue, valueWords } from './typed-value';

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
const NOTICE_MS = 6000;

/**
 * A horizontal slider with a field for the exact value. Double-click or Backspace: default. Shift: fine. Wheel and arrow
 * keys: steps. A press on the scale below sets a pin there; on the slider, Enter sets one at its value, Delete removes it
 * and Ctrl with an arrow goes to the next one.
 */
export function QuantityControl({ quantity, value, onChange, onCommit, disabled, pins }: QuantityControlProps) {
  const { title, unit, step, scale, help } = quantity;
  const logarithmic = scale === 'logarithmic';
  const decimals = decimalsOf(step);
  const { toShare, fromShare } = useMemo(() => sliderScale(quantity), [quantity]);
  const toPosition = (v: number) => POSITIONS * toShare(v);
  const fromPosition = (p: number) => fromShare(p / POSITIONS);
  const set = (next: number) => {
    const held = heldInRange(quantity, next);
    setTyping(null);
    setNotice(null);
    if (held !== value) onChange(held);
  };
  const toDefault = () => (set(quantity.default), onCommit?.());

  const [typing, setTyping] = useState<string | null>(null);
  /** Why the typed text means nothing, or what became of it. */
  const [notice, setNotice] = useState<{ text: string; wrong: boolean } | null>(null);
  const typed = typing === null || typing === figure(value, decimals) ? null : typedValue(typing, quantity);
  const wrong = typed && 'problem' in typed ? typed.problem : null;
  const finishTyping = () => {
    setTyping(null);
    if (typed && 'value' in typed) {
      set(typed.value);
      onCommit?.();
    }
    if (wrong !== null) setNotice({ text: wrong, wrong: true });
    else if (typed && 'value' in typed && typed.note) setNotice({ text: typed.note, wrong: false });
  };
  // Beside a field that is left, a sentence stands as long as it takes to read.
  useEffect(() => {
    if (notice === null || typing !== null) return;
    const passing = setTimeout(() => setNotice(null), NOTICE_MS);
    return () => clearTimeout(passing);
  }, [notice, typing]);

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
    const held = heldInRange(quantity, at);
    if (!pins.values.includes(held)) pins.onChange([...pins.values, held]);
  };
  const removePin = () => pins?.values.includes(value) && pins.onChange(pins.values.filter((pin) => pin !== value));
  const toNextPin = (direction: number) => {
    const further = (pins?.values ?? []).filter((pin) => (pin - value) * direction > 0);
    if (further.length === 0) return;
    set(direction > 0 ? Math.min(...further) : Math.max(...further));
    onCommit?.();
  };

  const fineFrom = useRef<{ position: number; value: number } | null>(null);
  return (
    <Box
      sx={{
        ...{
          display: 'grid',
          gridTemplateColumns: 'minmax(74px, auto) 1fr 92px',
          alignItems: 'center',
        },
        ...{ columnGap: 1, minHeight: 30 },
      }}
    >
      <Tooltip title={help} placement="left">
        <Box
          component="span"
          sx={{ fontSize: 13, whiteSpace: 'nowrap', color: disabled ? 'text.secondary' : undefined }}
        >
          {title}
        </Box>
      </Tooltip>
      <Box ref={sliderBox} onDoubleClick={toDefault} sx={{ px: 0.75, opacity: disabled ? 0.4 : 1 }}>
        <Slider
          size="small"
          disabled={disabled}
          aria-label={title}
          min={0}
          max={POSITIONS}
          step={0.1}
          track={false}
          value={toPosition(value)}
          scale={(position) => heldInRange(quantity, fromPosition(position))}
          getAriaValueText={() => valueWords(quantity, value)}
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
            if (event.key === 'Delete') return void removePin();
            if (event.key === 'Backspace') return toDefault();
            const direction = { ArrowRight: 1, ArrowUp: 1, PageUp: 1, ArrowLeft: -1, ArrowDown: -1, PageDown: -1 }[
              event.key
            ];
            if (direction === undefined) return;
            // The slider's own keys would step by position first.
            event.preventDefault();
            event.stopPropagation();
            if (event.ctrlKey || event.metaKey) return toNextPin(direction);
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
            toShare={toShare}
            onSet={addPin}
            onReturn={(v) => (set(v), onCommit?.())}
            fromShare={fromShare}
          />
        )}
      </Box>
      <Tooltip open={notice !== null} title={notice?.text ?? ''} placement="bottom-end" describeChild>
        <Box
          component="label"
          sx={{
            display: 'inline-flex',
            justifyContent: 'flex-end',
            alignItems: 'baseline',
            border: 1,
            borderColor: notice?.wrong ? 'error.main' : 'divider',
            borderRadius: 1,
            bgcolor: 'background.paper',
            px: 0.75,
            py: 0.125,
            '&:has(:focus-visible)': FOCUS_RING,
          }}
        >
          <Box
            component="input"
            inputMode="decimal"
            aria-label={`${title} value`}
            aria-invalid={notice?.wrong ?? false}
            disabled={disabled}
            value={typing ?? figure(value, decimals)}
            onFocus={(event) => {
              setTyping(figure(value, decimals));
              setNotice(null);
              event.target.select();
            }}
            onChange={(event) => setTyping(event.target.value)}
            onBlur={finishTyping}
            onKeyDown={(event) => {
              // The focus goes to the slider, where the keys of the page work again.
              const toSlider = () => sliderBox.current?.querySelector('input')?.focus();
              if (event.key === 'Escape') {
                flushSync(() => setTyping(null));
                toSlider();
              }
              if (event.key !== 'Enter') return;
              if (wrong === null) toSlider();
              else setNotice({ text: wrong, wrong: true });
            }}
            sx={{
              width: '7ch',
              border: 0,
              outline: '0 !important',
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
      </Tooltip>
      <Box component="span" role="status" sx={HIDDEN}>
        {notice?.text}
      </Box>
    </Box>
  );
}
