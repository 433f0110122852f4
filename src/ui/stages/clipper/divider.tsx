'use client';

import Box from '@mui/material/Box';
import { useRef, type KeyboardEvent } from 'react';
import { useDrag } from '../../kit/use-drag';

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
  const drag = useDrag(({ xy: [, y] }) => {
    const box = line.current?.parentElement?.getBoundingClientRect();
    if (box) move((100 * (y - box.top)) / box.height);
  });
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
      {...drag()}
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
