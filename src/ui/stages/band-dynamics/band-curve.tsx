'use client';

import Box from '@mui/material/Box';
import Tooltip from '@mui/material/Tooltip';
import { useRef, type KeyboardEvent } from 'react';
import type { DynamicsBand } from '../../../core/stages/band-dynamics/settings';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { useDrag } from '../../kit/use-drag';
import { useSize } from '../../kit/use-size';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useTransport } from '../../track/context';
import {
  CURVE_HIGH,
  CURVE_LOW,
  curvePoints,
  POINT_TITLES,
  pointWords,
  withPoint,
  type CurvePoint,
} from './curve-points';
import { curveScale, drawBandCurve } from './draw-band-curve';

/** Decibels of an arrow key, and with Shift. */
const STEP_DB = 0.5;
const FINE_DB = 0.1;

/** A band's curve. Of the open band its points can be dragged, or moved by the arrow keys; a press opens another. */
export function BandCurve({
  index,
  number,
  band,
  open,
  onOpen,
  onChange,
}: {
  index: number;
  /** From 0. */
  number: number;
  band: DynamicsBand;
  open: boolean;
  onOpen: () => void;
  onChange: (label: string, change: Partial<DynamicsBand>) => void;
}) {
  const { board, lane } = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const measurement = useMeasurements((state) => state.measurement);
  const box = useRef<HTMLDivElement>(null);
  const { width, height } = useSize(box);
  const scale = curveScale(width, height);
  const levels = measurement?.bandLevels[index]?.[number] ?? null;
  const trace = measurement?.bandReduction[index]?.[number];
  const most = measurement ? (trace ?? new Float32Array(0)).reduce((a, b) => Math.max(a, b), 0) : null;
  const draw: Draw = (surface) => {
    const { latest } = board;
    const level = latest?.bandLevels[number];
    const now = playing && level !== undefined ? { level, reduction: latest?.bandReductions[number] ?? 0 } : null;
    drawBandCurve(surface, { band, levels, now, most, name: String(number + 1), open }, palette);
  };
  const move = ({ name }: CurvePoint, level: number) =>
    onChange(POINT_TITLES[name].toLowerCase(), withPoint(band, name, level));
  const drag = useDrag(({ args, first, last, movement: [x, y], shiftKey, memo }) => {
    const [point] = args as [CurvePoint];
    const from = first ? point[point.axis === 'in' ? 'into' : 'out'] : (memo as number);
    const by = point.axis === 'in' ? x * scale.dbAcross : -y * scale.dbUp;
    move(point, from + by * (shiftKey ? 0.1 : 1));
    if (last) void lane.flush();
    return from;
  });
  const onKeyDown = (event: KeyboardEvent, point: CurvePoint) => {
    const direction = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
    if (direction === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const level = point.axis === 'in' ? point.into : point.out;
    move(point, level + direction * (event.shiftKey ? FINE_DB : STEP_DB));
    void lane.flush();
  };
  return (
    <Box
      ref={box}
      sx={{
        position: 'relative',
        minWidth: 0,
        bgcolor: open ? 'action.hover' : undefined,
        cursor: open ? undefined : 'pointer',
      }}
      onClick={() => !open && onOpen()}
    >
      <Picture label={`Curve of band ${number + 1}`} moving={playing} draw={draw} />
      {open &&
        curvePoints(band).map((point) => (
          <Tooltip key={point.name} title={`${POINT_TITLES[point.name]}: ${pointWords(band, point.name)}`}>
            <Box
              component="button"
              role="slider"
              disabled={!band.on}
              aria-label={`Band ${number + 1}: ${POINT_TITLES[point.name].toLowerCase()} (arrow keys move it)`}
              aria-orientation={point.axis === 'in' ? 'horizontal' : 'vertical'}
              aria-valuemin={CURVE_LOW}
              aria-valuemax={CURVE_HIGH}
              aria-valuenow={Math.round((point.axis === 'in' ? point.into : point.out) * 10) / 10}
              aria-valuetext={pointWords(band, point.name)}
              {...drag(point)}
              onKeyDown={(event: KeyboardEvent) => onKeyDown(event, point)}
              sx={{
                ...{ position: 'absolute', width: 24, height: 24, p: 0, border: 0, bgcolor: 'transparent' },
                ...{ transform: 'translate(-50%, -50%)', touchAction: 'none', borderRadius: '50%' },
                cursor: point.axis === 'in' ? 'ew-resize' : 'ns-resize',
                '&::after': {
                  content: '""',
                  ...{ position: 'absolute', inset: 6, border: '2px solid', borderColor: 'text.primary' },
                  bgcolor: 'background.paper',
                  borderRadius: point.axis === 'in' ? '50%' : '2px',
                },
              }}
              style={{
                left: Math.max(12, Math.min(width - 12, scale.x(point.into))),
                top: Math.max(12, Math.min(height - 12, scale.y(point.out))),
              }}
            />
          </Tooltip>
        ))}
    </Box>
  );
}
