import type { Dither } from '../../../core/deliver/dither';

export const DITHER_TITLES: Record<Dither, string> = {
  none: 'None',
  TPDF: 'TPDF',
  'high-pass TPDF': 'High-pass TPDF',
  'noise-shaped': 'Noise-shaped',
};

/** What each does, and what it costs. */
export const DITHER_HELP: Record<Dither, string> = {
  none: 'Plain rounding. The error follows the music and is heard as grit in fades. Right only for what already lies on the steps, which is left alone anyway.',
  TPDF: 'A steady, quiet hiss instead of grit. Always right, also for files that will be processed again.',
  'high-pass TPDF': 'The same hiss with less of it in the lows and more in the highs. Fades sound a little cleaner.',
  'noise-shaped':
    'Moves the hiss to where the ear is deaf: it sounds some 15 dB quieter, and there is more of it in all. For the last step only: processing or encoding it later brings the noise back.',
};
