'use client';

import Box from '@mui/material/Box';
import Tooltip from '@mui/material/Tooltip';
import type { ClipperSettings } from '../../../core/stages/clipper/settings';
import { outputGainDb } from '../../../core/stages/clipper/settings';
import { traceWithin } from '../../../engine/measure/measurement';
import { figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { useMeasurements, useTrack } from '../../track/context';

const most = (trace: Float32Array) => trace.reduce((a, b) => Math.max(a, b), 0);
const mean = (trace: Float32Array) => (trace.length > 0 ? trace.reduce((a, b) => a + b, 0) / trace.length : 0);

/** What the clipper cuts: off the peaks, off the loudness, and how much of the track it touched. */
export function Shaved({ settings, index }: { settings: ClipperSettings; index: number }) {
  const measurement = useMeasurements((state) => state.measurement);
  const loudest = useTrack((state) => state.details.mix?.report?.loudest);
  const [into, out] = [measurement?.joints[index], measurement?.joints[index + 1]];
  if (!measurement || !into || !out) return null;
  const shaved = measurement.gainReduction[index] ?? new Float32Array(0);
  const touched = measurement.distortions[index]?.touched ?? new Float32Array(0);
  const gainDb = settings.inputGainDb + outputGainDb(settings);
  const lost = into.integratedLufs + gainDb - out.integratedLufs;
  const percent = (trace: Float32Array) => {
    const share = 100 * mean(trace);
    return share > 0 && share < 0.01 ? '< 0.01' : figure(share, 2);
  };
  const both = (words: (trace: Float32Array) => string, trace: Float32Array) =>
    `${words(trace)} / ${words(traceWithin(trace, loudest))}`;
  const item = (name: string, value: string, unit: string) => (
    <Box sx={{ whiteSpace: 'nowrap' }}>
      <Box component="dt" sx={{ display: 'inline', color: 'text.secondary' }}>
        {name}
      </Box>{' '}
      <Box component="dd" sx={{ display: 'inline', m: 0, fontFamily: FIGURE_FACE }}>
        {value} <span style={{ fontSize: '0.88em', opacity: 0.8 }}>{unit}</span>
      </Box>
    </Box>
  );
  return (
    <Tooltip title="Whole track / loudest passage">
      <Box
        component="dl"
        tabIndex={0}
        aria-label="What the clipper cuts"
        sx={{ m: 0, px: 2, py: 0.25, fontSize: 12, display: 'flex', justifyContent: 'space-between', gap: 1 }}
      >
        {item(
          'shaved, at most',
          both((trace) => figure(most(trace)), shaved),
          'dB',
        )}
        {item('touched', both(percent, touched), '%')}
        {item('loudness lost', figure(Math.max(0, lost), 2), 'LU')}
      </Box>
    </Tooltip>
  );
}
