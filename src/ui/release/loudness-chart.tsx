'use client';

import Box from '@mui/material/Box';
import { Bar, BarChart, CartesianGrid, LabelList, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { TrackSummary } from '../../contracts/release';
import { figure } from '../kit/format';
import { usePalette } from '../theme/use-palette';

const FLOOR = -40;

/** Integrated loudness of all mixes of a release in one picture. */
export function LoudnessChart({ tracks }: { tracks: TrackSummary[] }) {
  const { copper, quiet, hairline } = usePalette();
  const data = tracks.flatMap(({ title, position, mix }) => {
    const loudness = mix?.report?.integratedLufs;
    // Bars stand on the floor of the scale, since a level has no zero to stand on.
    return loudness === null || loudness === undefined
      ? []
      : [{ name: `${position} · ${title}`, height: Math.max(0, loudness - FLOOR), label: `${figure(loudness)} LUFS` }];
  });
  if (data.length < 2) return null;
  return (
    <Box
      role="img"
      aria-label={`Integrated loudness of the mixes: ${data.map(({ name, label }) => `${name} ${label}`).join(', ')}`}
    >
      <ResponsiveContainer width="100%" height={34 * data.length + 30}>
        <BarChart layout="vertical" data={data} margin={{ left: 0, right: 90, top: 0, bottom: 0 }} barSize={14}>
          <CartesianGrid horizontal={false} stroke={hairline} />
          <XAxis
            type="number"
            domain={[0, -FLOOR]}
            ticks={[0, 10, 20, 30, 40]}
            tickFormatter={(value: number) => figure(value + FLOOR, 0)}
            stroke={quiet}
            fontSize={11}
            tickLine={false}
            axisLine={false}
          />
          <YAxis
            type="category"
            dataKey="name"
            width={170}
            stroke={quiet}
            fontSize={12}
            tickLine={false}
            axisLine={false}
          />
          <Bar dataKey="height" fill={copper} isAnimationActive={false}>
            <LabelList dataKey="label" position="right" fontSize={12} fill={quiet} />
          </Bar>
        </BarChart>
      </ResponsiveContainer>
    </Box>
  );
}
