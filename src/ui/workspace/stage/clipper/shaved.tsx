'use client';

import type { ClipperSettings } from '../../../../core/stages/clipper/settings';
import { outputGainDb } from '../../../../core/stages/clipper/settings';
import { PASS_FRAMES, type Span } from '../../../../engine/pass/result';
import { Reading } from '../../../controls/reading';
import { figure } from '../../../format';
import { useWorkspace } from '../../context';

const within = (trace: Float32Array, span: Span | undefined) =>
  span ? trace.subarray(Math.floor(span.start / PASS_FRAMES), Math.ceil(span.end / PASS_FRAMES)) : trace;
const most = (trace: Float32Array) => trace.reduce((a, b) => Math.max(a, b), 0);
const mean = (trace: Float32Array) => (trace.length > 0 ? trace.reduce((a, b) => a + b, 0) / trace.length : 0);

/** What the clipper took: off the peaks, off the loudness, and how much of the programme it touched. */
export function Shaved({ settings, index }: { settings: ClipperSettings; index: number }) {
  const pass = useWorkspace((state) => state.pass);
  const loudest = useWorkspace((state) => state.workspace.mix?.report?.loudest);
  if (!pass) return null;
  const shaved = pass.gainReduction[index] ?? new Float32Array(0);
  const touched = pass.bends[index]?.touched ?? new Float32Array(0);
  const gainDb = settings.inputGainDb + outputGainDb(settings);
  const lost = pass.joints[index].integratedLufs + gainDb - pass.joints[index + 1].integratedLufs;
  const percent = (trace: Float32Array) => {
    const share = 100 * mean(trace);
    return share > 0 && share < 0.01 ? '< 0.01' : figure(share, 2);
  };
  const both = (words: (trace: Float32Array) => string, trace: Float32Array) =>
    `${words(trace)} / ${words(within(trace, loudest))}`;
  return (
    <dl style={{ margin: 0, fontSize: 12.5 }} aria-label="What the clipper took">
      <Reading name="Shaved at most, track / loudest" value={both((trace) => figure(most(trace)), shaved)} unit="dB" />
      <Reading name="Samples touched, track / loudest" value={both(percent, touched)} unit="%" />
      <Reading name="Loudness lost" value={figure(Math.max(0, lost), 2)} unit="LU" />
    </dl>
  );
}
