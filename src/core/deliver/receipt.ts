import type { Lane } from '../lane/schema';
import type { Figure } from '../measure/intake-report';
import type { Destination } from './destination';
import type { Verdict } from './verdict';

/** The proof that comes with a finished file: every figure was measured from the file on disk. */
export interface Receipt {
  schema: 1;
  file: {
    name: string;
    bytes: number;
    sha256: string;
    container: string;
    sampleRate: number;
    bits: number;
    frames: number;
    durationSeconds: number;
  };
  measured: {
    integratedLufs: Figure;
    maxMomentaryLufs: Figure;
    maxShortTermLufs: Figure;
    rangeLu: number;
    plrLu: Figure;
    samplePeakDbfs: [Figure, Figure];
    truePeakDbtp: [Figure, Figure];
  };
  verdict: Verdict;
  destination: Destination;
  mix: { fileName: string; sha256: string };
  version: string;
  lane: Lane;
  levelDb: number;
  /** Largest reduction of the true-peak guard in dB. */
  guardDb: number;
  dither: 'TPDF' | 'none';
  clippedSamples: number;
  made: { core: string; ffmpeg: string };
}
