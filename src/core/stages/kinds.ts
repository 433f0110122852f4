// One line for each kind of stage.
export { bandDynamics } from './band-dynamics/definition';
export { clipper } from './clipper/definition';
export { compressor } from './compressor/definition';
export { deEsser } from './de-esser/definition';
export { equalizer } from './equalizer/definition';
export { limiter } from './limiter/definition';
export { room } from './room/definition';
export { saturation } from './saturation/definition';
export { stereo } from './stereo/definition';
export { trim } from './trim/definition';
