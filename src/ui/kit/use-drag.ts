import { useDrag as useGesture, type Handler } from '@use-gesture/react';

/** Drags by mouse, pen and finger. Keys are left to the element, which knows better steps than pixels. */
export function useDrag(handler: Handler<'drag'>) {
  return useGesture(handler, { pointer: { keys: false } });
}
