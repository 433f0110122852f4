import type { JointMeter } from '../../core/measure/joint-meter';
import { inDecibels } from '../../core/measure/peak';
import type { JointLevels } from './joint-levels';
import type { PlayedLoudness } from './played-loudness';
import type { HeardLevels } from './protocol';

/** Levels of a source that is heard from a buffer, since its peaks were last cleared. */
export function bufferLevels({ loudness, peak }: JointMeter, played: PlayedLoudness): HeardLevels {
  return {
    samplePeaksDbfs: inDecibels(peak.samplePeaks()),
    truePeaksDbtp: inDecibels(peak.truePeaks()),
    momentaryLufs: loudness.momentary(),
    shortTermLufs: loudness.shortTerm(),
    integratedLufs: played.integrated(),
  };
}

/** Levels of a joint of the lane that is heard, since the last readings. */
export function heardLevels(levels: JointLevels, joint: number, played: PlayedLoudness): HeardLevels {
  return {
    samplePeaksDbfs: levels.samplePeaksDbfs(joint),
    truePeaksDbtp: levels.truePeaksDbtp(joint),
    momentaryLufs: levels.momentaryLufs(joint),
    shortTermLufs: levels.shortTermLufs(joint),
    integratedLufs: played.integrated(),
  };
}
