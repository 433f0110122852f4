'use client';

import Box from '@mui/material/Box';
import { useEffect, useState, type RefObject } from 'react';
import { FIGURE_FACE } from '../theme/theme';

/** Pixels that a readout needs beside the pointer. */
const WIDTH = 190;

/** Where the pointer is in a picture, in pixels, and the size of the picture. */
export interface PointerPlace {
  x: number;
  y: number;
  width: number;
  height: number;
}

/**
 * What a picture shows under the pointer, in words beside it; nothing where `text` gives null, and on touch screens. A help
 * for the eye: whatever it says can be read elsewhere by a screen reader.
 */
export function PointerReadout({
  box,
  text,
}: {
  box: RefObject<HTMLElement | null>;
  text: (place: PointerPlace) => string | null;
}) {
  const [place, setPlace] = useState<PointerPlace | null>(null);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const move = ({ clientX, clientY, pointerType, buttons }: PointerEvent) => {
      const { left, top, width, height } = element.getBoundingClientRect();
      setPlace(
        pointerType === 'mouse' && buttons === 0 ? { x: clientX - left, y: clientY - top, width, height } : null,
      );
    };
    const leave = () => setPlace(null);
    element.addEventListener('pointermove', move);
    element.addEventListener('pointerdown', leave);
    element.addEventListener('pointerleave', leave);
    return () => {
      element.removeEventListener('pointermove', move);
      element.removeEventListener('pointerdown', leave);
      element.removeEventListener('pointerleave', leave);
    };
  }, [box]);
  const words = place && text(place);
  if (!place || !words) return null;
  const right = place.x + WIDTH < place.width;
  return (
    <>
      <Box
        aria-hidden
        sx={{
          position: 'absolute',
          top: 0,
          bottom: 0,
          borderLeft: '1px dotted',
          borderColor: 'text.secondary',
          pointerEvents: 'none',
        }}
        style={{ left: place.x }}
      />
      <Box
        aria-hidden
        data-testid="pointer-readout"
        sx={{
          ...{ position: 'absolute', top: 2, px: 0.5, fontFamily: FIGURE_FACE, fontSize: 12, lineHeight: 1.35 },
          ...{ whiteSpace: 'nowrap', pointerEvents: 'none', zIndex: 2 },
          ...{ bgcolor: 'background.paper', borderRadius: 0.5, opacity: 0.92 },
        }}
        style={right ? { left: place.x + 6 } : { right: place.width - place.x + 6 }}
      >
        {words}
      </Box>
    </>
  );
}
