import { useMemo } from 'react';
import type { EncodeCheck } from '../../../contracts/encode-check';
import type { Destination } from '../../../core/deliver/destination';
import { encodeName, sameEncode } from '../../../core/deliver/encode';
import type { Observation, ObservedEncode } from '../../../core/draft/observations/observation';
import { observe } from '../../../core/draft/observations/observe';
import { louder } from '../../../core/measure/intake-report';
import { TRACE_FRAMES } from '../../../engine/measure/measurement';
import { useEncodes, useLane, useMeasurements, useMixLength, useTrack } from '../context';

/** Checked encodes with what each may peak at: as a destination asks, or as the check did. */
function observedEncodes(checks: readonly EncodeCheck[], destinations: readonly Destination[]): ObservedEncode[] {
  const asked = destinations.flatMap(({ encodes }) => encodes);
  return checks.flatMap(({ codec, kbps, result }) => {
    if (!result) return [];
    const encode = { codec, kbps };
    const { clearing } = result;
    const wanted = asked.filter((each) => sameEncode(each, encode)).map(({ maxDbtp }) => maxDbtp);
    return [
      {
        name: encodeName(encode),
        truePeakDbtp: louder(result.encode.truePeaksDbtp) ?? -Infinity,
        limitDbtp: Math.min(...wanted, clearing?.limitDbtp ?? 0),
        seconds: result.encode.overSeconds[0] ?? null,
        clearing: clearing?.stage ? { stage: clearing.stage, ceilingDbtp: clearing.value } : null,
      },
    ];
  });
}

/** What is worth a look in the master as it was last measured; null before that. */
export function useObservations(): Observation[] | null {
  const lane = useLane((state) => state.version.lane);
  const measurement = useMeasurements((state) => state.measurement);
  const fresh = useMeasurements((state) => state.share === null);
  const loudest = useTrack((state) => state.details.mix?.report?.loudest) ?? null;
  const destinations = useTrack((state) => state.details.destinations);
  const checks = useEncodes((state) => state.checks);
  const { sampleRate } = useMixLength();
  return useMemo(() => {
    if (!fresh || measurement?.joints.length !== lane.stages.length + 1) return null;
    const encodes = observedEncodes(
      checks,
      destinations.map(({ settings }) => settings),
    );
    return observe({ ...measurement, lane, sampleRate, loudest, traceFrames: TRACE_FRAMES, encodes });
  }, [fresh, measurement, lane, sampleRate, loudest, checks, destinations]);
}
