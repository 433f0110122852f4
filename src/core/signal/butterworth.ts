import { arithmetic } from './arithmetic';

/** Quality factors of the second-order sections of a Butterworth filter of even order: Q_k = 1 / (2·cos θ_k). */
export function butterworthQs(order: number): number[] {
  return Array.from({ length: order / 2 }, (_, k) => 1 / (2 * arithmetic().cos((Math.PI * (2 * k + 1)) / (2 * order))));
}
