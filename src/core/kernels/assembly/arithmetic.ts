// Deterministic elementary functions: JavaScript's Math may differ between engines, WebAssembly arithmetic may not.

export function sin(x: f64): f64 {
  return NativeMath.sin(x);
}
export function cos(x: f64): f64 {
  return NativeMath.cos(x);
}
export function exp(x: f64): f64 {
  return NativeMath.exp(x);
}
export function log(x: f64): f64 {
  return NativeMath.log(x);
}
export function pow(x: f64, y: f64): f64 {
  return NativeMath.pow(x, y);
}
