import { bandSections, sectionsGainDb } from '../equalizer/design';
import { compressorDesign } from './design';
import { compressorSettings } from './settings';
import { sideChainBands } from './side-chain';

const RATE = 48000;

test.each([
  [20, 0],
  [120, 0],
  [300, 4],
  [20, -6],
])('what is heard of the side-chain is what the detector hears: high-pass %d Hz, tilt %d dB', (hz, tilt) => {
  const settings = compressorSettings.parse({ sideChainHighPassHz: hz, sideChainTiltDb: tilt });
  const bands = sideChainBands(settings);
  const heard = bands.flatMap((band) => bandSections(band, RATE));
  const { sideChain } = compressorDesign(settings, RATE);
  // Without a band there would be nothing to listen through.
  expect(bands.length).toBeGreaterThan(0);
  for (let f = 20; f < 20000; f *= 1.5)
    expect(Math.abs(sectionsGainDb(heard, f, RATE) - sectionsGainDb(sideChain, f, RATE))).toBeLessThan(0.1);
});
