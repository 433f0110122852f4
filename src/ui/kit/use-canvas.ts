'use client';

import { useEffect, useRef, type RefObject } from 'react';

export interface Surface {
  context: CanvasRenderingContext2D;
  /** CSS pixels. */
  width: number;
  height: number;
}

/** Draws in CSS pixels; true asks for another frame, for what still moves to where it belongs. */
export type Draw = (surface: Surface) => boolean | void;

/**
 * A canvas that is drawn on every animation frame while `moving`, else whenever the component renders or its size changes,
 * and for as long as the drawing asks for more frames. At rest nothing runs.
 */
export function useCanvas(draw: Draw, moving: boolean): RefObject<HTMLCanvasElement | null> {
  const canvas = useRef<HTMLCanvasElement>(null);
  const latest = useRef(draw);
  latest.current = draw;
  const request = useRef(0);

  const paint = useRef((): boolean => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (!element || !context) return false;
    const ratio = window.devicePixelRatio || 1;
    const { clientWidth: width, clientHeight: height } = element;
    if (width === 0 || height === 0) return false;
    if (element.width !== Math.round(width * ratio) || element.height !== Math.round(height * ratio)) {
      element.width = Math.round(width * ratio);
      element.height = Math.round(height * ratio);
    }
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.clearRect(0, 0, width, height);
    return latest.current({ context, width, height }) === true;
  });

  /** Paints now, and on the next frames while `again` says so. */
  const run = useRef((again: (more: boolean) => boolean) => {
    cancelAnimationFrame(request.current);
    const frame = () => {
      const more = paint.current();
      if (again(more)) request.current = requestAnimationFrame(frame);
    };
    frame();
  });

  useEffect(() => {
    if (!moving) run.current((more) => more);
  });

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const observer = new ResizeObserver(() => void paint.current());
    observer.observe(element);
    void document.fonts.ready.then(() => paint.current());
    return () => observer.disconnect();
  }, []);

  useEffect(() => {
    if (moving) run.current(() => true);
    return () => cancelAnimationFrame(request.current);
  }, [moving]);

  return canvas;
}
