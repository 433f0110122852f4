import { powerDecibels } from '../../core/signal/decibels';
import type { Measurement } from './measurement';

/** dB of all that a lane's stages added to the loudest passage, against the music; −infinity for nothing. */
export function addedDistortionDb({ distortions }: Pick<Measurement, 'distortions'>): number {
  return powerDecibels(distortions.reduce((sum, each) => sum + 10 ** ((each?.added?.totalDb ?? -Infinity) / 10), 0));
}
