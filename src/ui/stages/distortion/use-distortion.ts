'use client';

import { useEffect, useState } from 'react';
import { DISTORTION_FRAMES, DistortionMeter, type DistortionReading } from '../../../core/measure/distortion';
import { useEditor, useMeasurements, useMixLength, useTransport } from '../../track/context';
import { liveWindow } from './live-window';

const EVERY_MS = 250;
/** Windows of a reading: what was played in the last two seconds. */
const WINDOWS = 8;

/** Distortion that a stage adds: of what was just played, else of the loudest passage; null while that is not known. */
export function useDistortion(index: number): DistortionReading | null {
  const { taps, board } = useEditor();
  const playing = useTransport((state) => state.playing);
  const { sampleRate } = useMixLength();
  const measured = useMeasurements((state) => state.measurement?.distortions[index]?.added ?? null);
  const [live, setLive] = useState<DistortionReading | null>(null);
  useEffect(() => {
    if (!playing) return setLive(null);
    const meter = new DistortionMeter(sampleRate);
    let windows = 0;
    const timer = setInterval(() => {
      const lead = board.latest?.tapLead ?? 0;
      for (const channel of ['left', 'right'] as const) {
        const { before, after } = liveWindow(taps, channel, DISTORTION_FRAMES, lead);
        meter.add(before, after);
      }
      if (++windows < WINDOWS) return;
      setLive(meter.reading());
      meter.clear();
      windows = 0;
    }, EVERY_MS);
    return () => clearInterval(timer);
  }, [playing, sampleRate, taps, board, index]);
  return playing ? live : measured;
}
