import { sound } from '../prove/sound';

test('bands drawn at random agree with SciPy, masters with ffmpeg, and dither with its statistics', async () => {
  await expect(sound({ bands: 60, masters: 3, dithers: 4, seed: 7 })).resolves.toBeUndefined();
});
