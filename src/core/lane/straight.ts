import { hasEvenHarmonics } from '../stages/saturation/curves';
import type { Lane, Stage } from './schema';

/** A ceiling in dB that nothing reaches. */
const UNREACHED_DB = 120;
/** dB of drive at which every curve is a straight line. */
const STRAIGHT_DRIVE_DB = -100;

/**
 * A stage that bends the wave, with nothing bent and no gain: what its crossovers, tones and oversampling filters do by
 * themselves, which is no distortion. Null where that is nothing but its latency. Some of its settings are beyond what a
 * lane may hold.
 */
export function straightened(stage: Stage, crossovers: Lane['crossovers']): Stage | null {
  switch (stage.kind) {
    case 'saturation': {
      const { split, oversampling, toneUndone, toneBeforeDb, toneAfterDb, bandDrivesDb } = stage.settings;
      const parted = split === 'bands' && crossovers.phase === 'minimum';
      const toned = !toneUndone && (toneBeforeDb !== 0 || toneAfterDb !== 0);
      const even = hasEvenHarmonics(stage.settings);
      if (!parted && !toned && !even && oversampling.phase === 'linear') return null;
      const settings = {
        ...stage.settings,
        // One that has even harmonics without a bias: what stands still is taken out behind those.
        curve: even ? ('mixedSoft' as const) : stage.settings.curve,
        biasPercent: 0,
        driveDb: STRAIGHT_DRIVE_DB,
        bandDrivesDb: bandDrivesDb.map(() => 0),
        makeupDb: 0,
      };
      return { ...stage, settings };
    }
    case 'clipper':
      if (stage.settings.oversampling.phase === 'linear') return null;
      return {
        ...stage,
        settings: { ...stage.settings, link: 'none', inputGainDb: 0, outputGainDb: 0, ceilingDbfs: UNREACHED_DB },
      };
    case 'limiter':
      if (!stage.settings.preLimited || crossovers.phase === 'linear') return null;
      return {
        ...stage,
        settings: { ...stage.settings, emphasis: 'off', inputGainDb: 0, ceilingDbtp: UNREACHED_DB },
      };
    case 'trim':
    case 'equalizer':
    case 'deEsser':
    case 'compressor':
    case 'bandDynamics':
    case 'stereo':
    case 'room':
      return null;
  }
}
