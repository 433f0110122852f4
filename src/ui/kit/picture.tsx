'use client';

import { useCanvas, type Draw } from './use-canvas';

/** A picture that fills what contains it. Without a label it says nothing that text beside it does not. */
export function Picture({ label, moving = false, draw }: { label?: string; moving?: boolean; draw: Draw }) {
  const canvas = useCanvas(draw, moving);
  return (
    <canvas
      ref={canvas}
      style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
      {...(label ? { role: 'img', 'aria-label': label } : { 'aria-hidden': true })}
    />
  );
}
