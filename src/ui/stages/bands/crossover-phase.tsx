'use client';

import { crossoversSchema, type Crossovers } from '../../../core/stages/bands/crossovers';
import { linearBandsLatency } from '../../../core/stages/bands/linear-band-splitter';
import { describeChoice } from '../../../core/stages/setting';
import { ChoiceRow } from '../../kit/choice-row';
import { useEditor, useLane, useTrack } from '../../track/context';

const CHOICE = describeChoice<Crossovers['phase']>(crossoversSchema.shape.phase);

/** Phase of the lane's crossovers. */
export function CrossoverPhase() {
  const editor = useEditor();
  const phase = useLane((state) => state.version.lane.crossovers.phase);
  const sampleRate = useTrack((state) => state.details.mix?.source.sampleRate ?? 44100);
  const milliseconds = Math.round((1000 * linearBandsLatency(sampleRate)) / sampleRate);
  return (
    <ChoiceRow
      choice={{ ...CHOICE, help: `${CHOICE.help} At this sample rate linear phase costs ${milliseconds} ms.` }}
      value={phase}
      onChange={(next) =>
        editor.lane.setCrossovers('Crossover phase', (crossovers) => ({ ...crossovers, phase: next }))
      }
    />
  );
}
