/**
 * Field offsets (bytes) of the kernels' state blocks. The AssemblyScript kernels and their TypeScript host both import
 * this file, so a block has one description. Every block starts at a multiple of 16.
 */

/** Lanes run in blocks that are a multiple of this many frames; tiny filter states are cleared on the same grid. */
export const QUANTUM = 128;

// One biquad section: five coefficients and two states; each an f64x2 (left, right).
export const SECTION_B0 = 0;
export const SECTION_B1 = 16;
export const SECTION_B2 = 32;
export const SECTION_A1 = 48;
export const SECTION_A2 = 64;
export const SECTION_S1 = 80;
export const SECTION_S2 = 96;
export const SECTION_BYTES = 112;

// A band that moves with its level: up to three sections each, their counts, then f64x2 pairs, then f64 values.
export const BAND_BASE = 0; // the band at rest
export const BAND_FULL = 336; // the band moved by its whole range
export const BAND_DETECTOR = 672; // what of the signal is listened to
export const BAND_HEARD = 1008; // f64x2, 1 for each channel that is listened to, else 0
export const BAND_ENERGY = 1024; // f64x2, mean square of the detected signal
export const BAND_ENERGY_SHARE = 1040; // share of the distance covered each frame
export const BAND_THRESHOLD = 1048; // dBFS
export const BAND_RANGE = 1056; // dB, never negative
export const BAND_ATTACK = 1064; // share of the distance covered each step
export const BAND_RELEASE = 1072;
export const BAND_TURN = 1080; // ln of the gain that a dB of movement multiplies by; negative for a band that cuts
export const BAND_SPAN = 1088; // 1 / (gain of the whole range − 1)
export const BAND_MOVE = 1096; // dB moved now
export const BAND_WEIGHT = 1104; // share of the moved band now
export const BAND_MOST = 1112; // dB, furthest move since the host last set it to 0
export const BAND_WHOLE = 1120; // f64x2, mean square of everything
export const BAND_WHOLE_SHARE = 1136; // share of the distance covered each frame; 0: the threshold is in dBFS, not against everything
export const BAND_BASE_COUNT = 1144; // u32, sections in use
export const BAND_FULL_COUNT = 1148;
export const BAND_DETECTOR_COUNT = 1152;
export const BAND_BYTES = 1168;
/** Frames between two level readings. */
export const BAND_STEP_FRAMES = 16;

// Dynamics: f64 parameters, f64x2 pairs, up to two sections before the detector, and its states. Levels in dB.
export const DYN_DIRECTION = 0; // 1: reduces above the threshold, −1: below it
export const DYN_THRESHOLD = 8; // dBFS
export const DYN_SLOPE = 16; // dB wanted for each dB beyond the threshold
export const DYN_KNEE = 24; // dB, above 0
export const DYN_GROWTH = 32; // dB in which the slope grows to three quarters; 0: the same slope everywhere
export const DYN_RANGE = 40; // dB
export const DYN_LINK = 48; // share of the louder channel in what each channel listens to
export const DYN_OFFSET = 56; // dB added to the mean square, so that a tone reads its peak
export const DYN_ENERGY_SHARE = 64; // each frame; 1 for a peak detector
export const DYN_CREST_SHARE = 72; // 0: the release is fixed
export const DYN_CREST_FRAMES = 80; // longest release in frames, when it follows the crest factor
export const DYN_RELEASE = 88; // this and all that follow: shares of the distance covered each look
export const DYN_RELEASE_LOOP = 96; // while what comes out is above the threshold
export const DYN_LEAD = 104; // of the pole before the attack's, 1: none
export const DYN_ATTACK = 112;
export const DYN_ONSET = 120; // share of the wanted reduction that comes at once
export const DYN_MEMORY_RISE = 128;
export const DYN_MEMORY_FALL = 136;
export const DYN_HELD = 144; // share of the memory that the release falls to at first
export const DYN_FLOOR = 152; // least that is followed
export const DYN_DRY = 160; // amplitude ratios
export const DYN_WET = 168;
export const DYN_COLOUR = 176; // strength of the odd harmonics
export const DYN_LOWEST = 184; // lowest gain in dB since the host last set it to 0
export const DYN_HEARD = 192; // f64x2, 1 for each channel that is listened to, else 0
export const DYN_WORKED = 208; // f64x2, 1 for each channel that is used, else 0
export const DYN_STATES = 224; // f64x2: energy, crest peak, crest mean, followed, memory, lead, moved, gain
export const DYN_ENERGY = 224;
export const DYN_CREST_PEAK = 240;
export const DYN_CREST_MEAN = 256;
export const DYN_FOLLOWED = 272;
export const DYN_MEMORY = 288;
export const DYN_LEADING = 304;
export const DYN_MOVED = 320;
export const DYN_GAIN = 336; // amplitude ratio, 1 at rest
export const DYN_SECTIONS = 352; // u32, sections before the detector
export const DYN_SIDE_CHAIN = 368; // the sections
export const DYN_SIDE_CHAIN_SECTIONS = 2;
export const DYN_BYTES = 592;
/** Frames between two level readings. */
export const DYN_LOOK_FRAMES = 4;
/** Frames between two readings of the crest factor. */
export const DYN_STEP_FRAMES = 16;

// A crossover: f64 poles and gains, then the states of its three recursions, f64x2.
export const XO_A1 = 0;
export const XO_A2 = 8;
export const XO_LOW = 16; // gain of both low-pass sections
export const XO_HIGH = 24;
export const XO_STATES = 32;
export const XO_BYTES = 128;

// A gain that moves: gain, its increment a frame, and the increment of that; each an f64x2 (left, right).
export const GAIN_NOW = 0;
export const GAIN_STEP = 16;
export const GAIN_BEND = 32;
export const GAIN_BYTES = 48;

// K-weighting: shelf b0 b1 b2 a1 a2, high-pass a1 a2, four states, and the running energy; each an f64x2.
export const KW_SHELF = 0;
export const KW_HIGH_PASS = 80;
export const KW_STATE = 112;
export const KW_ENERGY = 176;
export const KW_BYTES = 192;

// True-peak interpolator: 32 taps a phase, and the 12 taps a phase of ITU-R BS.1770 Annex 2, both split into even and
// odd parts.
export const TAPS = 32;
export const HALF_TAPS = 16;
/** Frames by which an interpolated value trails the newest sample it was computed from. */
export const INTERPOLATION_DELAY = 16;
/** First tap of the 32-tap window that the centred 12-tap window covers. */
export const ANNEX2_FIRST = 10;
export const GROUP = 16;

// True-peak meter of one channel; the f32 signal follows: 32 frames of history, then the block.
export const TP_PEAK = 0;
/** u32: interpolated points above full scale. */
export const TP_OVERS = 4;
/** f32x4, the loudest sample in one of its lanes. */
export const TP_SAMPLE_PEAK = 16;
/** f32x4 of the last two groups: their loudest sample in lane 0, their sharpest bend in lane 2. */
export const TP_GROUP_1 = 32;
export const TP_GROUP_2 = 48;
export const TP_SIGNAL = 64;

/**
 * Bytes kept in front of each block of a half-band filter of linear phase: 64 frames of f32, more than its taps reach.
 */
export const HALF_BAND_HISTORY = 256;
// An all-pass section: its coefficient, what went in last and what came out; each an f64x2.
export const ALL_PASS_BYTES = 48;

// A curve that saturates: f32 each but its number (u32).
export const SHAPE_CURVE = 0;
export const SHAPE_DRIVE = 4;
export const SHAPE_BIAS = 8;
export const SHAPE_GAIN = 12;
export const SHAPE_BYTES = 16;

// A clipper: f32 each but its curve's number and the count of samples it touched (u32).
export const CLIP_CURVE = 0;
export const CLIP_CEILING = 4;
export const CLIP_KNEE = 8;
export const CLIP_LOUDEST = 12;
export const CLIP_TOUCHED = 16;
/** u32, 1: what comes out is what is added to what went in, nothing where nothing is cut. */
export const CLIP_REMOVED_ONLY = 20;
export const CLIP_BYTES = 24;

// Limiter: parameters, running state of both channels (f64x2), then what belongs to each channel.
export const LIM_CEILING = 0; // f64, linear
export const LIM_RECOVERY = 8; // f64, share of the distance covered each frame
export const LIM_LINK = 16; // f64, share of the other channel's reduction that comes at once
export const LIM_RECOVERY_LINK = 24; // f64, the same of what recovers
export const LIM_HELD = 32; // f64, share of the memory that the gain recovers to at first; 0: there is none
export const LIM_MEMORY_RISE = 40; // f64, shares each frame
export const LIM_MEMORY_FALL = 48;
export const LIM_WINDOW = 56; // u32, frames of the running minimum, a multiple of 4
export const LIM_BOX = 60; // u32, frames of each smoothing box
export const LIM_GAIN = 64; // gain after recovery
export const LIM_MEMORY = 80; // reduction that is remembered
export const LIM_LOWEST = 96; // lowest gain applied since the host last set it to 1, in one of its lanes
export const LIM_DELAY = 112; // u32, frames
export const LIM_POSITION = 116; // u32, bytes into the current chunk of the running minimum
export const LIM_DETECTION = 120; // u32, points between two samples that are looked at: 0, 3 or 7
export const LIM_LEFT = 128; // channels
export const LIM_RIGHT = 208;
export const LIM_BYTES = 288;
/** Steps of the limiter's gain in 1. */
export const LIM_GRID = 1073741824;
// A channel of the limiter. Where both channels are fully linked, the left one finds the gain for both.
export const LIM_CHANNEL_PREFIX = 0; // f32x4
export const LIM_CHANNEL_GROUPS = 16; // f32 x 4: loudest sample, then sharpest bend, of the last two groups of 16
export const LIM_CHANNEL_DETECT = 32; // u32, addresses
export const LIM_CHANNEL_DELAY = 36;
export const LIM_CHANNEL_CURRENT = 40;
export const LIM_CHANNEL_SUFFIX = 44;
export const LIM_CHANNEL_MINIMUM = 48;
export const LIM_CHANNEL_FIRST_BOX = 52;
export const LIM_CHANNEL_SECOND_BOX = 56;
export const LIM_CHANNEL_SUM_1 = 64; // f64: sums of the gains in the boxes, in steps
export const LIM_CHANNEL_SUM_2 = 72;

// Transient emphasis: f64 parameters, then states.
export const EMPH_MOST = 0; // gain beyond 1
export const EMPH_FALL = 8; // shares of the distance covered each look
export const EMPH_SLOW = 16;
export const EMPH_SMOOTH = 24;
export const EMPH_FAST_LEVEL = 32;
export const EMPH_SLOW_LEVEL = 40;
export const EMPH_GAIN = 48; // 1 at rest
export const EMPH_SMOOTHED = 56;
export const EMPH_MOST_NOW = 64;
export const EMPH_BYTES = 72;
/** Frames between two level readings. */
export const EMPH_LOOK_FRAMES = 4;

// Dither of one channel.
export const DITHER_RANDOM = 0; // u32 x 4
export const DITHER_UNIFORM = 16; // f64, the last number drawn; all levels in steps of the word length
export const DITHER_SCALE = 24; // f64, steps in full scale
export const DITHER_KIND = 32; // u32, one of the four below
export const DITHER_TAPS = 36; // u32, of the error filter; 0 without noise shaping
export const DITHER_AT = 40; // u32, where the newest error is
export const DITHER_SILENT = 44; // u32, frames since the last sound
export const DITHER_SILENT_FRAMES = 48; // u32, frames of silence after which zeros are written
export const DITHER_CLIPPED = 52; // u32, samples held at the ends of the scale
export const DITHER_FILTER = 64; // f64 for each tap
export const DITHER_ERRORS = 192; // f64 for each tap, twice: read from any place without turning round
export const DITHER_MOST_TAPS = 16;
export const DITHER_BYTES = 448;
export const DITHER_NONE = 0;
export const DITHER_TRIANGULAR = 1;
export const DITHER_HIGH_PASS = 2;
