import { Kernels, type KernelExports } from '../kernels/host';

let instance: KernelExports | undefined;

/**
 * The kernels' own elementary functions. JavaScript engines may round Math.sin, exp, log and pow differently;
 * everything that affects a sample uses these instead, so that every machine gives the same bits.
 */
export function arithmetic(): Pick<KernelExports, 'sin' | 'cos' | 'exp' | 'log' | 'pow'> {
  instance ??= new Kernels().run;
  return instance;
}
