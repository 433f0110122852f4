import { THIRD_OCTAVES_HZ } from '../measure/balance';

/**
 * What records have on average by third-octaves, in dB: the long-term spectrum falls by 5 dB an octave from 100 Hz to 4 kHz and
 * faster above (Pestana, Ma, Reiss, Barbosa, Black, "Spectral Characteristics of Popular Commercial Recordings 1950–2010", AES
 * 135th Convention, 2013). A third-octave holds 3 dB an octave more. How much faster above, and what is below, are our own
 * judgement: 8 dB an octave, level down to 50 Hz, and 6 dB an octave less below.
 */
const [LOWEST_HZ, FROM_HZ, TO_HZ] = [50, 100, 4000];
const [LESS, FALL, FASTER] = [6, 5, 8];
const WIDTH = 3;

export const RECORDS_DB: readonly number[] = THIRD_OCTAVES_HZ.map(
  (hz) =>
    LESS * Math.min(0, Math.log2(hz / LOWEST_HZ)) +
    (WIDTH - FALL) * Math.max(0, Math.log2(Math.min(hz, TO_HZ) / FROM_HZ)) +
    (WIDTH - FASTER) * Math.max(0, Math.log2(hz / TO_HZ)),
);
