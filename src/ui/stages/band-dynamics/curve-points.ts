import { bandDesigns, bandOutput } from '../../../core/stages/band-dynamics/design';
import type { DynamicsBand } from '../../../core/stages/band-dynamics/settings';
import { staticReduction } from '../../../core/stages/dynamics';

/** Levels in dBFS that a curve shows. */
export const CURVE_LOW = -72;
export const CURVE_HIGH = 0;

/** A point of a band's curve that can be moved, along which axis, and where it is: level in and level out in dBFS. */
export interface CurvePoint {
  name: CurvePointName;
  axis: 'in' | 'out';
  into: number;
  out: number;
}

export type CurvePointName = 'expandBelow' | 'expandBy' | 'compressAbove' | 'compressBy' | 'limitAt';

/** What each point is called, and in which unit it reads. */
export const POINT_TITLES: Record<CurvePointName, string> = {
  expandBelow: 'Expansion threshold',
  expandBy: 'Expansion ratio',
  compressAbove: 'Compression threshold',
  compressBy: 'Compression ratio',
  limitAt: 'Limit',
};

/** dB below the expansion threshold, and share of the way from the compression threshold to full scale, of the ratios. */
const BELOW_DB = 12;
const ABOVE_SHARE = 0.6;
const MOST_EXPANSION = 10;
const MOST_COMPRESSION = 20;

const clamp = (value: number, low: number, high: number) => Math.max(low, Math.min(high, value));
const round = (value: number, step: number) => Math.round(value / step) * step;

/** Level in at which a ratio is read and set. */
function placeOf(name: 'expandBy' | 'compressBy', { expansion, compression }: DynamicsBand): number {
  return name === 'expandBy'
    ? Math.max(CURVE_LOW + 2, expansion.thresholdDbfs - BELOW_DB)
    : compression.thresholdDbfs * (1 - ABOVE_SHARE);
}

/** The points of a band's curve. */
export function curvePoints(band: DynamicsBand): CurvePoint[] {
  const { expansion, compression, limiting, makeupDb } = band;
  const on = (name: CurvePointName, into: number, axis: 'in' | 'out'): CurvePoint => ({
    ...{ name, axis, into, out: bandOutput(band, into) },
  });
  return [
    on('expandBelow', expansion.thresholdDbfs, 'in'),
    on('expandBy', placeOf('expandBy', band), 'out'),
    on('compressAbove', compression.thresholdDbfs, 'in'),
    on('compressBy', placeOf('compressBy', band), 'out'),
    { name: 'limitAt', axis: 'out', into: CURVE_HIGH, out: limiting.thresholdDbfs + (band.on ? makeupDb : 0) },
  ];
}

/** The band with a point moved to a level, in dBFS along the point's axis, as far as its settings allow. */
export function withPoint(band: DynamicsBand, name: CurvePointName, level: number): Partial<DynamicsBand> {
  const { expansion, compression, limiting, makeupDb } = band;
  if (name === 'expandBelow') return { expansion: { ...expansion, thresholdDbfs: round(clamp(level, -90, 0), 0.1) } };
  if (name === 'compressAbove')
    return { compression: { ...compression, thresholdDbfs: round(clamp(level, -80, 0), 0.1) } };
  if (name === 'limitAt')
    return { limiting: { ...limiting, thresholdDbfs: round(clamp(level - makeupDb, -60, 0), 0.1) } };
  const into = placeOf(name, band);
  const [expands, compresses] = bandDesigns({ ...band, on: true }, 1);
  if (name === 'expandBy') {
    const wanted = into + makeupDb - level;
    const ratio = 1 + wanted / Math.max(1, expansion.thresholdDbfs - into);
    return { expansion: { ...expansion, ratio: round(clamp(ratio, 1, MOST_EXPANSION), 0.05) } };
  }
  // What the ratio has to take is what is missing after the expander, at a slope of one.
  const arriving = into - (expands ? staticReduction(expands, into) : 0);
  const wanted = arriving + makeupDb - level;
  const whole = staticReduction(
    {
      ...(compresses ?? bandDesigns({ ...band, on: true, compression: { ...compression, ratio: 2 } }, 1)[1]!),
      slope: 1,
      rangeDb: 100,
    },
    arriving,
  );
  const slope = whole > 0 ? clamp(wanted / whole, 0, 1 - 1 / MOST_COMPRESSION) : 0;
  return { compression: { ...compression, ratio: round(1 / (1 - slope), 0.05) } };
}

/** What a point is set to, in words. */
export function pointWords({ expansion, compression, limiting }: DynamicsBand, name: CurvePointName): string {
  const db = (value: number) => `${value.toFixed(1).replace('-', '−')} dBFS`;
  const ratio = (value: number) => `${value.toFixed(2)} : 1`;
  return {
    expandBelow: db(expansion.thresholdDbfs),
    expandBy: ratio(expansion.ratio),
    compressAbove: db(compression.thresholdDbfs),
    compressBy: ratio(compression.ratio),
    limitAt: limiting.thresholdDbfs < 0 ? db(limiting.thresholdDbfs) : 'off',
  }[name];
}
