import type { JointMeter } from '../../core/measure/joint-meter';
import { inDecibels } from '../../core/measure/peak';
import type { HeardLevels, LiveJoint } from './protocol';
import type { PlayedLoudness } from './played-loudness';

/** Levels of a joint since they were last cleared, of the louder channel. */
export function jointLevels({ loudness, peak }: JointMeter): LiveJoint {
  return {
    momentaryLufs: loudness.momentary(),
    samplePeakDbfs: Math.max(...inDecibels(peak.samplePeaks())),
    truePeakDbtp: Math.max(...inDecibels(peak.truePeaks())),
  };
}

/** Levels of the source that is heard. */
export function heardLevels({ loudness, peak }: JointMeter, played: PlayedLoudness): HeardLevels {
  return {
    samplePeaksDbfs: inDecibels(peak.samplePeaks()),
    truePeaksDbtp: inDecibels(peak.truePeaks()),
    momentaryLufs: loudness.momentary(),
    shortTermLufs: loudness.shortTerm(),
    integratedLufs: played.integrated(),
  };
}
