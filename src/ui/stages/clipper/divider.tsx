'use client';

import Box from '@mui/material/Box';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';

const STEP = 5;

/** A line that is dragged, or moved by the arrow keys, to share out the height of what contains it, in percent. */
export function Divider({
  label,
  value,
  min,
  max,
  onChange,
}: {
  label: string;
  value: number;
  min: number;
  max: number;
  onChange: (share: number) => void;
}) {
  const line = useRef<HTMLDivElement>(null);
  const move = (share: number) => onChange(Math.round(Math.max(min, Math.min(max, share))));
  const onPointerMove = (event: PointerEvent) => {
    const box = line.current?.parentElement?.getBoundingClientRect();
    if (box && event.buttons === 1) move((100 * (event.clientY - box.top)) / box.height);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowUp: -STEP, ArrowDown: STEP }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    move(value + by);
  };
  return (
    <Box
      ref={line}
      role="separator"
      tabIndex={0}
      aria-label={label}
      aria-orientation="horizontal"
      aria-valuenow={value}
      aria-valuemin={min}
      aria-valuemax={max}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={onPointerMove}
      onKeyDown={onKeyDown}
      sx={{
        height: 7,
        cursor: 'row-resize',
        touchAction: 'none',
        borderTop: 1,
        borderColor: 'divider',
        '&:hover, &:focus-visible': { bgcolor: 'action.hover' },
      }}
    />
  );
}
