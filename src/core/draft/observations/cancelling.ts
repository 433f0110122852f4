import { stageTitle } from '../../lane/schema';
import { figure } from '../../measure/figure';
import { THIRD_OCTAVES_HZ } from '../../measure/balance';
import type { ObservedMaster, Rule } from './observation';

/** What a stage must do to the balance at least, in dB, to be compared with another. */
const LEAST_DB = 1;
/** Two cancel out when together they do less than this share of what the lesser of them does. */
const LEFT = 0.35;
const HALF_STEP = 10 ** 0.05;
/** From 40 Hz to 16 kHz. */
const [FROM_HZ, TO_HZ] = [40, 16000];

/** What a stage does to each third-octave of the average spectrum, in dB; null where that was not measured. */
function changeOf({ spectra, sampleRate, lane }: ObservedMaster, i: number): number[] | null {
  const around = lane.stages[i].on ? spectra[i] : null;
  if (!around) return null;
  const { before, after } = around;
  const binHz = sampleRate / 2 / before.length;
  return THIRD_OCTAVES_HZ.filter((hz) => hz >= FROM_HZ && hz <= TO_HZ).map((hz) => {
    const power = (levels: Float32Array) => {
      let sum = 0;
      const to = Math.min(levels.length - 1, Math.round((hz * HALF_STEP) / binHz));
      for (let bin = Math.round(hz / HALF_STEP / binHz); bin <= to; bin++) sum += 10 ** (levels[bin] / 10);
      return sum;
    };
    const ratio = power(after) / power(before);
    return ratio > 0 && ratio < Infinity ? 10 * Math.log10(ratio) : 0;
  });
}

const rms = (values: readonly number[]) => Math.sqrt(values.reduce((sum, x) => sum + x * x, 0) / values.length);

/** Pairs of stages of which one takes back what the other does to the balance. */
export const cancelling: Rule = (master) => {
  const { stages } = master.lane;
  const changes = stages.map((_, i) => changeOf(master, i));
  return stages.flatMap((stage, i) =>
    stages.slice(i + 1).flatMap((other, k) => {
      const [a, b] = [changes[i], changes[i + 1 + k]];
      if (!a || !b) return [];
      const most = a.reduce((best, db, band) => (Math.abs(db) > Math.abs(a[best]) ? band : best), 0);
      const reach = (change: readonly number[]) => Math.max(...change.map(Math.abs));
      const left = rms(a.map((db, band) => db + b[band]));
      if (reach(a) < LEAST_DB || reach(b) < LEAST_DB || left > LEFT * Math.min(rms(a), rms(b))) return [];
      const hz = Math.round(THIRD_OCTAVES_HZ.filter((each) => each >= FROM_HZ)[most]);
      const off = new Set([stage.id, other.id]);
      return [
        {
          kind: 'cancelling' as const,
          stages: [stage.id, other.id],
          sentence: `${stageTitle(stage)} and ${stageTitle(other)} cancel out: around ${hz >= 1000 ? `${figure(hz / 1000)} kHz` : `${hz} Hz`} one does ${figure(a[most])} dB, the other ${figure(b[most])} dB.`,
          seconds: null,
          remedy: {
            label: 'Switch both off',
            apply: (lane) => ({
              ...lane,
              stages: lane.stages.map((each) => (off.has(each.id) ? { ...each, on: false } : each)),
            }),
          },
        },
      ];
    }),
  );
};
