'use client';

import { useTheme } from '@mui/material/styles';
import { Line, LineChart, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { Receipt } from '../../core/deliver/receipt';
import { clock } from '../kit/format';

/** Quietest loudness that is drawn, LUFS. */
const FLOOR = -50;

/** Short-term loudness of a finished file over its time. */
export function LoudnessCurve({ curve: { everySeconds, shortTermLufs } }: { curve: Receipt['curve'] }) {
  const { palette } = useTheme();
  const points = shortTermLufs.map((lufs, i) => ({
    seconds: i * everySeconds,
    lufs: lufs === null ? null : Math.max(FLOOR, lufs),
  }));
  return (
    <figure style={{ margin: 0 }} aria-label="Short-term loudness over time">
      <figcaption style={{ color: palette.text.secondary }}>Short-term loudness, LUFS</figcaption>
      <ResponsiveContainer width="100%" height={110}>
        <LineChart data={points} margin={{ top: 4, right: 8, bottom: 0, left: -24 }}>
          <XAxis
            dataKey="seconds"
            type="number"
            domain={[0, 'dataMax']}
            tick={{ fontSize: 12, fill: palette.text.secondary }}
            tickFormatter={(seconds: number) => clock(seconds)}
          />
          <YAxis domain={[FLOOR, 0]} ticks={[-50, -23, -14, 0]} tick={{ fontSize: 12, fill: palette.text.secondary }} />
          <Line dataKey="lufs" dot={false} isAnimationActive={false} stroke={palette.primary.main} strokeWidth={1.5} />
        </LineChart>
      </ResponsiveContainer>
    </figure>
  );
}
