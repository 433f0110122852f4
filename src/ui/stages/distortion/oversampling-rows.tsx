'use client';

import {
  oversamplingSchema,
  withOversampling,
  type Oversampling,
  type OversamplingFactor,
} from '../../../core/stages/oversampler';
import { describeChoice } from '../../../core/stages/setting';
import { ChoiceRow } from '../../kit/choice-row';

const { listening, delivery, phase } = oversamplingSchema(2, 4).shape;

/** Oversampling of a stage, while listening and for delivery. */
export function OversamplingRows({
  value,
  onChange,
}: {
  value: Oversampling;
  onChange: (label: string, value: Oversampling) => void;
}) {
  return (
    <>
      <ChoiceRow<OversamplingFactor>
        choice={describeChoice(listening)}
        value={value.listening}
        onChange={(factor) => onChange('Oversampling while listening', withOversampling(value, 'listening', factor))}
      />
      <ChoiceRow<OversamplingFactor>
        choice={describeChoice(delivery)}
        value={value.delivery}
        onChange={(factor) => onChange('Oversampling for delivery', withOversampling(value, 'delivery', factor))}
      />
      <ChoiceRow<Oversampling['phase']>
        choice={describeChoice(phase)}
        value={value.phase}
        onChange={(next) => onChange('Oversampling filters', { ...value, phase: next })}
      />
    </>
  );
}
