import { PLAIN, slopeOf, staticReduction, type DynamicsDesign } from '../dynamics';
import type { DynamicsBand } from './settings';

/** The gains that work on a band one after another: expansion, compression, limiting; those that do nothing are null. */
export type BandDesigns = readonly [DynamicsDesign | null, DynamicsDesign | null, DynamicsDesign | null];

/** What a band's settings mean; `link` from 0 to 1. */
export function bandDesigns({ on, expansion, compression, limiting }: DynamicsBand, link: number): BandDesigns {
  const idle = { ratio: 1 };
  const { ratio: expands } = on ? expansion : idle;
  const { ratio: compresses } = on ? compression : idle;
  return [
    expands > 1 ? { ...PLAIN, ...expansion, direction: 'below', slope: expands - 1, link } : null,
    compresses > 1 ? { ...PLAIN, ...compression, slope: slopeOf(compresses), link } : null,
    on && limiting.thresholdDbfs < 0 ? { ...PLAIN, ...limiting, slope: 1, link } : null,
  ];
}

/** Whether a band changes anything. */
export function works(band: DynamicsBand): boolean {
  return band.on && (band.makeupDb !== 0 || bandDesigns(band, 1).some((design) => design !== null));
}

/** Level in dBFS that comes out of a band at a steady level in dBFS. */
export function bandOutput(band: DynamicsBand, levelDbfs: number): number {
  const reduced = bandDesigns(band, 1).reduce(
    (level, design) => (design ? level - staticReduction(design, level) : level),
    levelDbfs,
  );
  return reduced + (band.on ? band.makeupDb : 0);
}
