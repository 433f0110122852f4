/** Level in dBFS (peak of a sine) of a signal at a frequency that fits a whole number of times into it, by the Goertzel sum. */
export function spectrumOf(x: Float64Array, sampleRate: number): (frequencyHz: number) => number {
  const { PI, cos, sin, hypot, log10 } = Math;
  return (frequencyHz) => {
    const step = (2 * PI * frequencyHz) / sampleRate;
    let re = 0;
    let im = 0;
    for (let i = 0; i < x.length; i++) {
      re += x[i] * cos(step * i);
      im += x[i] * sin(step * i);
    }
    return 20 * log10((2 * hypot(re, im)) / x.length + 1e-12);
  };
}
