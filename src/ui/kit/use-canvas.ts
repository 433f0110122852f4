'use client';

import { useEffect, useRef, type RefObject } from 'react';

export interface Surface {
  context: CanvasRenderingContext2D;
  /** CSS pixels. */
  width: number;
  height: number;
}

/**
 * A canvas that is drawn on every animation frame while `moving`, else whenever the component renders or its size
 * changes. The drawing works in CSS pixels.
 */
export function useCanvas(draw: (surface: Surface) => void, moving: boolean): RefObject<HTMLCanvasElement | null> {
  const canvas = useRef<HTMLCanvasElement>(null);
  const latest = useRef(draw);
  latest.current = draw;

  const paint = useRef(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (!element || !context) return;
    const ratio = window.devicePixelRatio || 1;
    const { clientWidth: width, clientHeight: height } = element;
    if (width === 0 || height === 0) return;
    if (element.width !== Math.round(width * ratio) || element.height !== Math.round(height * ratio)) {
      element.width = Math.round(width * ratio);
      element.height = Math.round(height * ratio);
    }
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.clearRect(0, 0, width, height);
    latest.current({ context, width, height });
  });

  useEffect(() => {
    if (!moving) paint.current();
  });

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const observer = new ResizeObserver(() => paint.current());
    observer.observe(element);
    void document.fonts.ready.then(() => paint.current());
    return () => observer.disconnect();
  }, []);

  useEffect(() => {
    if (!moving) return;
    let request = requestAnimationFrame(function frame() {
      paint.current();
      request = requestAnimationFrame(frame);
    });
    return () => cancelAnimationFrame(request);
  }, [moving]);

  return canvas;
}
