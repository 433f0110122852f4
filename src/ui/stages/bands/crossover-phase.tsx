'use client';

import type { CROSSOVER_PHASES } from '../../../core/stages/bands/crossovers';
import { linearBandsLatency } from '../../../core/stages/bands/linear-band-splitter';
import { useSession, useWorkspace } from '../../track/context';
import { ChoiceRow } from '../../kit/choice-row';

const TITLES: Record<(typeof CROSSOVER_PHASES)[number], string> = { minimum: 'Minimum', linear: 'Linear' };

/** How the crossovers of the lane turn the phase. */
export function CrossoverPhase() {
  const session = useSession();
  const phase = useWorkspace((state) => state.version.lane.crossovers.phase);
  const sampleRate = useWorkspace((state) => state.workspace.mix?.source.sampleRate ?? 44100);
  const milliseconds = Math.round((1000 * linearBandsLatency(sampleRate)) / sampleRate);
  return (
    <ChoiceRow
      title="Crossover phase"
      help={`For all stages that work by bands. Minimum is right for nearly everything: the bands turn together and sum flat. Linear does not turn them at all: good for a mix with sharp low hits; costs ${milliseconds} ms of latency in each such stage and a faint ring ahead of hits.`}
      value={phase}
      titles={TITLES}
      onChange={(next) => session.setCrossovers('Crossover phase', (crossovers) => ({ ...crossovers, phase: next }))}
    />
  );
}
