'use client';

import Box from '@mui/material/Box';
import { Bar, BarChart, CartesianGrid, LabelList, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { TrackSummary } from '../../contracts/release';
import { reading, readingWords } from '../../core/measure/reading';
import { figure } from '../kit/format';
import { usePalette } from '../theme/use-palette';

const FLOOR = -40;

/** A bar and the words at its end; nothing where there is no loudness. */
function bar(lufs: number | null | undefined) {
  if (lufs === null || lufs === undefined) return { height: 0, words: '' };
  // Bars stand on the floor of the scale, since a level has no zero to stand on.
  return { height: Math.max(0, lufs - FLOOR), words: readingWords(reading('loudness', lufs)) };
}

/** Integrated loudness of all tracks of a release in one picture: each mix, and next to it its master. */
export function LoudnessChart({ tracks }: { tracks: TrackSummary[] }) {
  const { copper, patina, quiet, hairline } = usePalette();
  const data = tracks.flatMap(({ title, position, mix, master }) =>
    mix?.report
      ? [
          {
            name: `${position} · ${title}`,
            mix: bar(mix.report.integratedLufs),
            master: bar(master?.summary?.integratedLufs),
          },
        ]
      : [],
  );
  if (data.length < 2) return null;
  const words = data.map(
    ({ name, mix, master }) => `${name} mix ${mix.words}, master ${master.words || 'not known yet'}`,
  );
  return (
    <Box role="img" aria-label={`Integrated loudness: ${words.join('; ')}`}>
      <ResponsiveContainer width="100%" height={46 * data.length + 30}>
        <BarChart
          layout="vertical"
          data={data}
          margin={{ left: 0, right: 130, top: 0, bottom: 0 }}
          barSize={13}
          barGap={2}
        >
          <CartesianGrid horizontal={false} stroke={hairline} />
          <XAxis
            type="number"
            domain={[0, -FLOOR]}
            ticks={[0, 10, 20, 30, 40]}
            tickFormatter={(value: number) => figure(value + FLOOR, 0)}
            stroke={quiet}
            fontSize={12}
            tickLine={false}
            axisLine={false}
          />
          <YAxis
            type="category"
            dataKey="name"
            width={190}
            stroke={quiet}
            fontSize={12}
            tickLine={false}
            axisLine={false}
          />
          {(['mix', 'master'] as const).map((of) => (
            <Bar key={of} dataKey={`${of}.height`} fill={of === 'mix' ? copper : patina} isAnimationActive={false}>
              <LabelList
                valueAccessor={({ payload }: { payload?: (typeof data)[number] }) =>
                  payload?.[of].words ? `${of} ${payload[of].words}` : ''
                }
                position="right"
                fontSize={12}
                fill={quiet}
              />
            </Bar>
          ))}
        </BarChart>
      </ResponsiveContainer>
    </Box>
  );
}
