import { arithmetic } from './arithmetic';

/**
 * Quality factors of the second-order sections of a Butterworth filter, Q_k = 1 / (2·cos θ_k); a filter of odd order has a
 * section of the first order besides.
 * @example
 * butterworthQs(4) // [0.5412, 1.3066]
 */
export function butterworthQs(order: number): number[] {
  const odd = order % 2;
  return Array.from({ length: (order - odd) / 2 }, (_, k) => {
    const angle = odd ? (Math.PI * (k + 1)) / order : (Math.PI * (2 * k + 1)) / (2 * order);
    return 1 / (2 * arithmetic().cos(angle));
  });
}
