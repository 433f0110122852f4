import type { Audio } from '../measure/measurement';

/**
 * Decodes a working file at its own rate into shared memory, which the worklet and the measuring workers both read. Throws an
 * Error with a sentence when the browser can’t decode it.
 */
export async function decodeMix(file: ArrayBuffer, sampleRate: number): Promise<Audio> {
  const decoder = new OfflineAudioContext(2, 1, sampleRate);
  const decoded = await decoder.decodeAudioData(file).catch(() => {
    throw new Error(
      'The browser could not decode the mix. Reload the page; if it happens again, upload the mix again.',
    );
  });
  const samplesOf = (channel: number) => {
    const samples = new Float32Array(new SharedArrayBuffer(decoded.length * 4));
    samples.set(decoded.getChannelData(channel));
    return samples;
  };
  return { left: samplesOf(0), right: samplesOf(1), sampleRate };
}
