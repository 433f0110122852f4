import { scaleLog } from 'd3-scale';

/** Hz at both ends of the picture. */
export const LOW = 20;
export const HIGH = 20000;

/** Room around the plot in pixels. */
export const LEFT = 44;
export const RIGHT = 34;
export const TOP = 8;
export const BOTTOM = 20;

/** Octaves are equally wide. */
const OCTAVES = scaleLog([LOW, HIGH], [0, 1]);

/** Frequency at a share of the plot's width. */
export function frequencyAt(share: number): number {
  return OCTAVES.invert(share);
}

/** Share of the plot's width at a frequency. */
export function shareOf(frequencyHz: number): number {
  return OCTAVES(frequencyHz);
}

export function heldFrequency(frequencyHz: number): number {
  return Math.round(Math.min(HIGH, Math.max(LOW, frequencyHz)));
}

export function heldGain(db: number): number {
  return Math.round(Math.max(-18, Math.min(18, db)) * 10) / 10;
}

/** Frequency under a point of the page, in a box that the picture fills. */
export function frequencyUnder(box: Element, clientX: number): number {
  const { left, width } = box.getBoundingClientRect();
  const share = (clientX - left - LEFT) / (width - LEFT - RIGHT);
  return heldFrequency(frequencyAt(Math.min(1, Math.max(0, share))));
}
