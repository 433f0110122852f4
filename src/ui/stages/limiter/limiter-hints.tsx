'use client';

import { reading } from '../../../core/measure/reading';
import { RATTLE_DB } from '../../../core/measure/distortion';
import { traceWithin } from '../../../engine/measure/measurement';
import { figure } from '../../kit/format';
import { ReadingRow } from '../../kit/reading-row';
import { useMeasurements, useTrack } from '../../track/context';
import { StageFigures } from '../stage-figures';

/** A block counts as limited from this reduction on, in dB. */
const WORKING_DB = 0.1;
/** Distortion below this is none. */
const NONE_DB = -100;

/** How often the limiter works, and what it does to low frequencies, with a hint when they rattle. */
export function LimiterHints({ index }: { index: number }) {
  const measurement = useMeasurements((state) => state.measurement);
  const loudest = useTrack((state) => state.details.mix?.report?.loudest);
  if (!measurement) return null;
  const trace = measurement.gainReduction[index] ?? new Float32Array(0);
  const share = (part: Float32Array) =>
    part.length > 0 ? (100 * part.filter((db) => db >= WORKING_DB).length) / part.length : 0;
  const passage = traceWithin(trace, loudest);
  const low = measurement.distortions[index]?.added?.lowDb ?? -Infinity;
  const none = low < NONE_DB;
  const rattles = low > RATTLE_DB;
  return (
    <StageFigures
      label="How often it limits"
      hint={
        rattles &&
        `The gain follows the bass: above ${figure(RATTLE_DB, 0)} dB it rattles. Try a slower recovery, or less input gain.`
      }
    >
      <ReadingRow name="Works, track / loudest passage" of={reading('share', share(trace), share(passage))} />
      <ReadingRow
        name="Distortion below 300 Hz"
        of={none ? 'none' : reading('gain', low)}
        color={rattles ? 'warning.main' : undefined}
      />
    </StageFigures>
  );
}
