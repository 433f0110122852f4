import type { Lane } from '../../core/lane/schema';
import { measurementKey, packMeasurement, unpackMeasurement } from '../../engine/measure/kept-measurement';
import type { Measurement } from '../../engine/measure/measurement';
import { bytes, send } from '../api';

/** Changes that follow each other closely are not worth keeping. */
const REST_MS = 1500;

export interface KeptOrder {
  mixId: string;
  versionId: string;
  lane: Lane;
  measurement: Measurement;
  /** Whether the lane is still the open one, and saved. */
  fits: () => boolean;
}

/**
 * Brings measurements to the server and back. Whatever goes wrong there stays without consequence: the page measures
 * the lane itself, and so does the server when it has to.
 */
export class MeasurementKeeper {
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** What was measured of a lane the last time; null when nothing was kept. */
  async find(mixId: string, versionId: string, lane: Lane): Promise<Measurement | null> {
    try {
      const [found, key] = await Promise.all([
        bytes(`/api/versions/${versionId}/measurement`),
        measurementKey(mixId, lane),
      ]);
      const kept = found && unpackMeasurement(found);
      return kept?.key === key ? kept.measurement : null;
    } catch {
      return null;
    }
  }

  /** Keeps a measurement once the lane has rested for a moment. */
  keep(order: KeptOrder): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.store(order).catch(() => {}), REST_MS);
  }

  close(): void {
    clearTimeout(this.timer);
  }

  private async store({ mixId, versionId, lane, measurement, fits }: KeptOrder): Promise<void> {
    if (!fits()) return;
    const packed = packMeasurement({ key: await measurementKey(mixId, lane), measurement });
    if (packed) await send(`/api/versions/${versionId}/measurement`, { method: 'PUT', body: packed });
  }
}
