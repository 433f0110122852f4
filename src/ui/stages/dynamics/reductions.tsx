'use client';

import { reading } from '../../../core/measure/reading';
import { MUCH_REDUCTION_DB, summariseReduction } from '../../../core/measure/reduction-summary';
import { traceWithin } from '../../../engine/measure/measurement';
import { ReadingRow } from '../../kit/reading-row';
import { useMeasurements, useTrack } from '../../track/context';
import { StageFigures } from '../stage-figures';

/** Gain reduction of a stage over the whole track and in the loudest passage, from the measurement, with a hint when it is much. */
export function Reductions({ index, less }: { index: number; less: string }) {
  const measurement = useMeasurements((state) => state.measurement);
  const loudest = useTrack((state) => state.details.mix?.report?.loudest);
  if (!measurement) return null;
  const trace = measurement.gainReduction[index] ?? new Float32Array(0);
  const passage = traceWithin(trace, loudest);
  const whole = summariseReduction(trace);
  const there = summariseReduction(passage);
  const much = there.typical > MUCH_REDUCTION_DB;
  const both = ({ typical, most }: typeof whole) => reading('gain', -typical, -most);
  return (
    <StageFigures
      label="Gain reduction, typical and most"
      hint={much && `More than ${MUCH_REDUCTION_DB} dB on the loudest passage is audible: ${less}`}
    >
      <ReadingRow name="Track, typical / most" of={both(whole)} />
      <ReadingRow name="Loudest passage" of={both(there)} color={much ? 'warning.main' : undefined} />
    </StageFigures>
  );
}
