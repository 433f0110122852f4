import { z } from 'zod';
import { stageTitle, type Lane } from '../../../core/lane/schema';
import { PPM_TYPES } from '../../../core/measure/ppm';
import type { InstrumentPlace } from '../../../engine/live/instruments';
import type { Candidate } from '../../../contracts/candidate';
import { candidateInk } from '../candidates/candidate-ink';
import { remembered } from '../../kit/remembered';

/** dBFS that a VU shows as 0 (common practice, no source). */
export const VU_ZEROS = [-20, -18, -14, -12] as const;
/** A VU has two scales: levels, and shares of its zero, on which the loud part is wider (IEC 60268-17; from memory). */
export const VU_SCALES = ['decibels', 'percent'] as const;
export type VuScale = (typeof VU_SCALES)[number];
/** dB above the zero of a level scale (after B. Katz, JAES 2000; from memory); null for a scale up to full scale. */
export const HEADROOMS = [null, 20, 14, 12] as const;
export const INSTRUMENTS = ['peaks', 'vu', 'ppm', 'loudness', 'image', 'spectrum', 'overs'] as const;
export type InstrumentName = (typeof INSTRUMENTS)[number];

const place = z.union([z.literal(['input', 'output', 'heard']), z.strictObject({ after: z.string().max(64) })]);
/** Where one measures, as it is remembered: a stage may be gone. */
export type ChosenPlace = z.infer<typeof place>;

const choice = z.object({
  places: z.tuple([place, place]).catch(['input', 'output']),
  vuZeroDbfs: z.literal([...VU_ZEROS]).catch(-18),
  vuScale: z.enum(VU_SCALES).catch('decibels'),
  headroomDb: z.literal([...HEADROOMS]).catch(null),
  ppm: z.enum(PPM_TYPES).catch('I'),
  shown: z.array(z.enum(INSTRUMENTS)).catch([...INSTRUMENTS]),
});

/** Which instruments are shown, and where they measure; remembered by the browser. */
export const useInstruments = remembered('instruments', choice);

/** The joint that a chosen place is in a lane; the output where its stage is gone. */
export function instrumentPlace(chosen: ChosenPlace, { stages }: Lane): InstrumentPlace {
  if (chosen === 'heard') return 'heard';
  if (chosen === 'input') return 0;
  if (chosen === 'output') return stages.length;
  const index = stages.findIndex(({ id }) => id === chosen.after);
  return index < 0 ? stages.length : index + 1;
}

/** What a place is drawn in: copper for what comes in, patina for what goes out, ink for what is neither. */
export function inkOf(chosen: ChosenPlace, lane: Lane, heard: Candidate['kind']): 'copper' | 'patina' | 'ink' {
  const place = instrumentPlace(chosen, lane);
  if (place === 'heard') return candidateInk(heard);
  if (place === 0) return 'copper';
  return place === lane.stages.length ? 'patina' : 'ink';
}

/** All places of a lane, with what they are called. */
export function placesIn({ stages }: Lane): { place: ChosenPlace; title: string }[] {
  return [
    { place: 'input', title: 'Input: the mix' },
    ...stages
      .slice(0, -1)
      .map((stage) => ({ place: { after: stage.id }, title: `After ${stageTitle(stage).toLowerCase()}` })),
    { place: 'output', title: 'Output: the master' },
    { place: 'heard', title: 'What is heard' },
  ];
}

/** A value by which a list tells places apart. */
export function placeKey(chosen: ChosenPlace): string {
  return typeof chosen === 'string' ? chosen : `after ${chosen.after}`;
}
