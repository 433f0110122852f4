'use client';

import Box from '@mui/material/Box';
import { figure } from '../kit/format';
import { useCanvas } from '../kit/use-canvas';
import { FIGURE_FACE } from '../theme/theme';
import { usePalette } from '../theme/use-palette';
import { useAudition, useEditor, useLiveReadings, useTransport } from './context';

const FLOOR_DB = -42;
const TOP_DB = 3;
const TICKS = [-40, -30, -20, -10, -5, 0];

function finite(lufs: number | undefined): string {
  return lufs === undefined || lufs === -Infinity ? '–' : figure(lufs);
}

/** Sample and true peak of both channels, held, and loudness of what is heard. */
export function OutputMeter() {
  const { board } = useEditor();
  const palette = usePalette();
  const heard = useAudition((state) => state.heard);
  const without = useAudition((state) => state.without);
  const playing = useTransport((state) => state.playing);
  const readings = useLiveReadings();
  const canvas = useCanvas(({ context, width }) => {
    const x = (db: number) =>
      16 + ((Math.min(TOP_DB, Math.max(FLOOR_DB, db)) - FLOOR_DB) / (TOP_DB - FLOOR_DB)) * (width - 17);
    const bar = heard === 'compared' && without === null ? palette.copper : palette.patina;
    context.font = `10px ${FIGURE_FACE}`;
    for (const channel of [0, 1]) {
      const y = 3 + channel * 13;
      context.fillStyle = palette.quiet;
      context.textAlign = 'left';
      context.fillText('LR'[channel], 0, y + 8);
      context.fillStyle = palette.hairline;
      context.fillRect(16, y, width - 17, 9);
      const sample = board.latest?.heard.samplePeaksDbfs[channel] ?? -Infinity;
      const truePeak = board.latest?.heard.truePeaksDbtp[channel] ?? -Infinity;
      const held = board.held.true[channel].value;
      context.globalAlpha = 0.45;
      context.fillStyle = truePeak > 0 ? palette.brick : bar;
      context.fillRect(16, y + 2.5, x(truePeak) - 16, 4);
      context.globalAlpha = 1;
      context.fillStyle = bar;
      context.fillRect(16, y, x(sample) - 16, 9);
      if (held > FLOOR_DB) {
        context.fillStyle = held > 0 ? palette.brick : palette.ink;
        context.fillRect(x(held) - 1, y - 1, 2, 11);
      }
    }
    context.fillStyle = palette.quiet;
    context.textAlign = 'center';
    for (const db of TICKS) context.fillText(figure(db, 0), Math.min(width - 8, x(db)), 40);
  }, playing);

  const held = Math.max(...board.held.true.map(({ value }) => value));
  const sampleHeld = Math.max(...board.held.sample.map(({ value }) => value));
  const peak = (value: number) => (value > -80 ? figure(value) : '–');
  const rows = [
    ['M', finite(readings?.heard.momentaryLufs), 'Momentary loudness, LUFS'],
    ['S', finite(readings?.heard.shortTermLufs), 'Short-term loudness, LUFS'],
    ['I', finite(readings?.heard.integratedLufs), 'Integrated loudness since playback started, LUFS'],
  ];
  return (
    <Box
      role="group"
      aria-label="Output meter"
      sx={{ display: 'flex', alignItems: 'center', gap: 1.5, fontFamily: FIGURE_FACE, fontSize: 11.5 }}
    >
      <canvas ref={canvas} style={{ width: 216, height: 42 }} aria-hidden />
      <Box
        component="dl"
        sx={{
          m: 0,
          display: 'grid',
          gridTemplateColumns: 'auto 5.5ch',
          columnGap: 1,
          lineHeight: 1.3,
          '& dt': { color: 'text.secondary' },
          '& dd': { m: 0, textAlign: 'right' },
        }}
      >
        <dt title="Held true peak, dBTP">TP</dt>
        <dd data-testid="held-true-peak">{peak(held)}</dd>
        <dt title="Held sample peak, dBFS">SP</dt>
        <dd>{peak(sampleHeld)}</dd>
      </Box>
      <Box
        component="dl"
        sx={{
          m: 0,
          display: 'grid',
          gridTemplateColumns: 'auto 6ch',
          columnGap: 1,
          lineHeight: 1.3,
          '& dt': { color: 'text.secondary' },
          '& dd': { m: 0, textAlign: 'right' },
        }}
      >
        {rows.map(([name, value, title]) => (
          <Box key={name} sx={{ display: 'contents' }}>
            <dt title={title}>{name}</dt>
            <dd aria-label={title}>{value}</dd>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
