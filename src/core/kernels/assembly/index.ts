// The one compiled module: everything that runs once a sample.
export * from './arithmetic';
export {
  gain, movingGain, crossfade, add, mix, toPairs, toPlanar, addPairs, mixPairs, sumsOfPairs, products, toMidSide, toLeftRight, bounded, extremes, widen,
} from './levels';
export { copy, delay } from './delay';
export { crossover } from './crossover';
export { cascade, section, kWeightedEnergy } from './filters';
export { dither } from './dither';
export { dynamics } from './dynamics';
export { dynamicBand } from './dynamic-band';
export { forwardTransform, inverseTransform, addProduct, conjugated } from './transform';
export { fineTable, annex2Table, eighthsTable, toSingle, truePeak } from './peaks';
export { upsample, downsample, upsampleAllPass, downsampleAllPass, toDouble } from './oversampling';
export { saturate, clip } from './shaping';
export { limiter } from './limiter';
export { emphasis } from './emphasis';

/** First free byte of memory; the host allocates from here. */
export const HEAP_BASE: usize = __heap_base;
