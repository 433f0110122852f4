'use client';

import { useEffect, useState, type RefObject } from 'react';

/** Width and height of an element in CSS pixels, as it is now; 0 before it is there. */
export function useSize(element: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const box = element.current;
    if (!box) return;
    const observer = new ResizeObserver(() => setSize({ width: box.clientWidth, height: box.clientHeight }));
    observer.observe(box);
    return () => observer.disconnect();
  }, [element]);
  return size;
}
