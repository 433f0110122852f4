'use client';

import {
  ALIASING_DB,
  OVERSAMPLING_FACTORS,
  OVERSAMPLING_HELP,
  OVERSAMPLING_PHASE_HELP,
  OVERSAMPLING_WORK,
  withOversampling,
  type Oversampling,
  type OversamplingFactor,
  type OversamplingPhase,
} from '../../../core/stages/oversampler';
import { figure } from '../../kit/format';
import { ChoiceRow } from '../../kit/choice-row';

const FACTOR_TITLES = Object.fromEntries(
  OVERSAMPLING_FACTORS.map((factor) => [
    factor,
    `${factor === 1 ? 'Off' : `${factor}×`}, aliasing ${figure(ALIASING_DB[factor], 0)} dB, work ${OVERSAMPLING_WORK[factor]}`,
  ]),
) as Record<OversamplingFactor, string>;
const PHASE_TITLES: Record<OversamplingPhase, string> = { linear: 'Linear', least: 'Least latency' };
const MEASURED =
  'The aliasing is that of a tone of 5 kHz 12 dB into a hard clip; softer curves leave less. The work is against 2×.';

/** Oversampling of a stage, while listening and for the delivery. */
export function OversamplingRows({
  value,
  onChange,
}: {
  value: Oversampling;
  onChange: (label: string, value: Oversampling) => void;
}) {
  return (
    <>
      <ChoiceRow
        title="While listening"
        help={`${OVERSAMPLING_HELP} ${MEASURED}`}
        value={value.listening}
        titles={FACTOR_TITLES}
        onChange={(factor) => onChange('Oversampling while listening', withOversampling(value, 'listening', factor))}
      />
      <ChoiceRow
        title="For the delivery"
        help={`Never lower than while listening; the full pass and every delivery use it. ${MEASURED}`}
        value={value.delivery}
        titles={FACTOR_TITLES}
        onChange={(factor) => onChange('Oversampling for the delivery', withOversampling(value, 'delivery', factor))}
      />
      <ChoiceRow
        title="Filters"
        help={OVERSAMPLING_PHASE_HELP[value.phase]}
        value={value.phase}
        titles={PHASE_TITLES}
        onChange={(phase) => onChange('Oversampling filters', { ...value, phase })}
      />
    </>
  );
}
