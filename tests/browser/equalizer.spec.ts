import { both, sine } from '../support/signals';
import { expect, test } from './test';

test.beforeEach(({ desk }) => desk.listen());

test('a band on the side leaves what both sides share, and takes what they do not', async ({ page, desk }) => {
  const tone = sine(1000, -20, 4, 44100);
  await desk.openNewTrack('wide.wav', { left: tone, right: tone.map((x) => -x) }, 44100);
  await desk.addStage('Equalizer', 1);
  await page.getByRole('button', { name: 'Add the first band' }).click();
  await desk.setValue('Frequency', '1000');
  await desk.setValue('Gain', '-6');
  await page.getByRole('combobox', { name: 'Works on' }).click();
  await page.getByRole('option', { name: 'Mid' }).click();
  await desk.checked();
  await expect(desk.levels()).toContainText('out−20.0');
  await page.getByRole('combobox', { name: 'Works on' }).click();
  await page.getByRole('option', { name: 'Side' }).click();
  await expect(desk.levels()).toContainText('out−26.0');
  // All gains together: half the decibels.
  await desk.setValue('Scale all gains', '50');
  await expect(desk.levels()).toContainText('out−23.0');
});

test('a double-click adds a band where it was pressed; shapes show the controls that work on them', async ({
  page,
  desk,
}) => {
  await desk.openNewTrack('shapes.wav', both(sine(1000, -20, 4, 44100)), 44100);
  await desk.addStage('Equalizer', 1);
  const stage = page.getByRole('region', { name: 'Equalizer stage' });
  const box = (await stage.locator('canvas').boundingBox())!;
  await page.mouse.dblclick(box.x + box.width / 2, box.y + box.height / 4);
  const band = page.getByRole('slider', { name: /^Band 1/ });
  await expect(band).toHaveAttribute('aria-valuetext', /^(5|6|7)\d\d Hz, \+[5-7]\.\d dB$/);
  const field = (title: string) => page.getByRole('textbox', { name: `${title} value` });
  const choose = async (shape: string) => {
    await page.getByRole('combobox', { name: 'Shape' }).click();
    await page.getByRole('option', { name: shape, exact: true }).click();
  };
  await choose('Notch');
  await expect(field('Gain')).toBeHidden();
  await expect(field('Q')).toBeVisible();
  await choose('Tilt');
  await expect(field('Gain')).toBeVisible();
  await expect(field('Q')).toBeHidden();
  await choose('High-pass');
  await page.getByRole('combobox', { name: 'Slope' }).click();
  await page.getByRole('option', { name: '6 dB/octave', exact: true }).click();
  await expect(band).toHaveAttribute('aria-valuetext', /6 dB\/octave/);
  await page
    .getByRole('switch', { name: 'Band 1 on' })
    .or(page.getByRole('checkbox', { name: 'Band 1 on' }))
    .click();
  await expect(desk.stage('Equalizer')).toHaveAccessibleName(/0 bands/);
});

test('a control takes keys, the wheel, typed values and a double-click', async ({ page, desk }) => {
  await desk.openNewTrack('control.wav', both(sine(1000, -20, 4, 44100)), 44100);
  await desk.addStage('Trim', 1);
  const value = page.getByRole('textbox', { name: 'Gain value' });
  const slider = page.getByRole('slider', { name: 'Gain', exact: true });
  await slider.focus();
  await slider.press('ArrowRight');
  await expect(value).toHaveValue('0.5');
  await slider.press('Shift+ArrowRight');
  await expect(value).toHaveValue('0.6');
  await slider.press('PageDown');
  await expect(value).toHaveValue('−1.4');
  const rail = page.getByRole('region', { name: 'Trim stage' }).locator('.MuiSlider-root');
  await rail.hover({ position: { x: 10, y: 10 } });
  await page.mouse.wheel(0, 100);
  await expect(value).toHaveValue('−1.9');
  await desk.setValue('Gain', '99');
  await expect(value).toHaveValue('24.0');
  await desk.setValue('Gain', '−3,5');
  await expect(value).toHaveValue('−3.5');
  await desk.setValue('Gain', 'loud');
  await expect(page.getByText(/“loud” is not a value for Gain/).first()).toBeAttached();
  await value.press('Escape');
  await expect(value).toHaveValue('−3.5');
  await rail.dblclick({ position: { x: 10, y: 10 } });
  await expect(value).toHaveValue('0.0');
  await desk.saved();
});

/** Two tones, the higher one at a level of its own. */
const two = (highDbfs: number) => {
  const [low, high] = [sine(1000, -26, 12, 44100), sine(3000, highDbfs, 12, 44100)];
  return both(low.map((x, i) => x + high[i]));
};

test('the sweep is heard as a boost while it is pressed, and leaves a cut where it was let go', async ({
  page,
  desk,
}) => {
  await desk.openNewTrack('sweep.wav', two(-26), 44100);
  await desk.addStage('Equalizer', 1);
  await page.keyboard.press('l');
  await page.keyboard.press('s');
  const surface = page.getByRole('slider', { name: /^Sweep/ });
  const box = (await surface.boundingBox())!;
  const at = (f: number) => [box.x + 44 + ((box.width - 78) * Math.log(f / 20)) / Math.log(1000), box.y + 120] as const;
  await page.mouse.move(...at(300));
  await page.mouse.down();
  // The press has begun to play.
  await expect.poll(() => desk.heard(1000)).toBeGreaterThan(-45);
  // Against the lower tone, since the master's level follows its loudness.
  const balance = async () => (await desk.heard(3000)) - (await desk.heard(1000));
  await expect.poll(balance).toBeCloseTo(0, 0);
  await page.mouse.move(...at(3000), { steps: 6 });
  await expect(surface).toHaveAttribute('aria-valuetext', /^(29|30)\d\d Hz$/);
  await expect.poll(balance).toBeGreaterThan(8);
  await page.mouse.up();
  const band = page.getByRole('slider', { name: /^Band 1/ });
  await expect(band).toHaveAttribute('aria-valuetext', /^(29|30)\d\d Hz, −5\.0 dB$/);
  await expect.poll(balance).toBeLessThan(-4);
  // The depth is the gain of the band that is open now.
  await desk.setValue('Gain', '-9');
  await expect.poll(balance).toBeLessThan(-8);
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(band).toBeHidden();
  await expect.poll(balance).toBeCloseTo(0, 0);
  // By keys, and without leaving anything.
  await page.keyboard.press('s');
  await surface.press('ArrowRight');
  await expect(surface).toHaveAttribute('aria-valuetext', /^20\d\d Hz$/);
  await surface.press('Escape');
  await expect(surface).toBeHidden();
  await expect(page.getByText('No bands yet')).toBeVisible();
});

test('pins remember positions of a control, across a reload and beside undo', async ({ page, desk }) => {
  await desk.openNewTrack('pins.wav', both(sine(1000, -20, 4, 44100)), 44100);
  await desk.addStage('Trim', 1);
  const value = page.getByRole('textbox', { name: 'Gain value' });
  await desk.setValue('Gain', '-4');
  await page.getByRole('slider', { name: 'Gain', exact: true }).press('Enter');
  const first = page.getByRole('button', { name: 'Gain pin at −4.0 dB' });
  await expect(first).toBeVisible();
  // Halfway from the default to +24 dB, on a scale that is finer around the default.
  const scale = (await page.getByTestId('Gain scale').boundingBox())!;
  await page.mouse.click(scale.x + scale.width * 0.75, scale.y + scale.height / 2);
  const second = page.getByRole('button', { name: /^Gain pin at 5\.\d dB$/ });
  await expect(second).toBeVisible();
  await second.click();
  await expect(value).toHaveValue(/^5\.\d$/);
  await first.click();
  await expect(value).toHaveValue('−4.0');
  await desk.saved();
  await page.keyboard.press('Control+z');
  await expect(value).toHaveValue(/^5\.\d$/);
  await expect(first).toBeVisible();
  await page.reload();
  await desk.checked();
  await first.click();
  await expect(value).toHaveValue('−4.0');
  await second.press('Delete');
  await expect(second).toBeHidden();
  await expect(first).toBeVisible();
});

test('a band moves with the level, and its picture and levels say so', async ({ page, desk }) => {
  await desk.openNewTrack('moving.wav', both(sine(1000, -20, 6, 44100)), 44100);
  await desk.addStage('Equalizer', 1);
  await page.getByRole('button', { name: 'Add the first band' }).click();
  await desk.setValue('Frequency', '1000');
  await page.getByText('Follow the level').click();
  await desk.setValue('Threshold', '-26');
  await desk.setValue('Range', '-5');
  await desk.setValue('Attack', '1');
  await desk.checked();
  // 6 dB beyond the threshold: the whole range.
  await expect(desk.levels()).toContainText(/out−25\.0/);
  await expect(page.getByRole('slider', { name: /^Band 1/ })).toHaveAttribute(
    'aria-valuetext',
    '1000 Hz, 0.0 dB, follows the level by up to −5.0 dB',
  );
  await desk.setValue('Threshold', '-10');
  await expect(desk.levels()).toContainText('out−20.0−20.0−20.0');
});

test('two alternatives of the equalizer, each with its own bands; linear phase keeps the level and says what it costs', async ({
  page,
  desk,
}) => {
  await desk.openNewTrack('alternatives.wav', both(sine(1000, -20, 40, 44100)), 44100);
  await desk.addStage('Equalizer', 1);
  await page.getByRole('button', { name: 'Add the first band' }).click();
  await desk.setValue('Frequency', '1000');
  await desk.setValue('Gain', '-3');
  const alternatives = page.getByRole('group', { name: 'Alternatives of Equalizer' });
  await alternatives.getByRole('button', { name: 'Add an alternative' }).click();
  // The second begins as a copy.
  await expect(page.getByRole('textbox', { name: 'Gain value' })).toHaveValue('−3.0');
  await desk.setValue('Gain', '4');
  await expect(desk.levels()).toContainText('out−16.0');
  await alternatives.getByRole('button', { name: 'A', exact: true }).click();
  await expect(desk.levels()).toContainText('out−23.0');
  await page.getByRole('combobox', { name: 'Phase' }).click();
  await page.getByRole('option', { name: 'Linear' }).click();
  await expect(page.getByText('232 ms latency, rings before hits')).toBeVisible();
  await desk.checked();
  await expect(desk.levels()).toContainText('out−23.0');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(() => desk.heard(1000)).toBeGreaterThan(-45);
  // From one to the other the level at the stage changes, what is heard does not: they are matched.
  await desk.filled();
  const first = await desk.heard(1000);
  await page.keyboard.press('k');
  await expect(alternatives.getByRole('button', { name: 'B' })).toHaveAttribute('aria-pressed', 'true');
  await expect(desk.levels()).toContainText(/out−1[67]\.\d/);
  await desk.filled();
  expect(Math.abs((await desk.heard(1000)) - first)).toBeLessThan(0.3);
  await desk.stageMenu('Remove alternative “B”');
  await expect(alternatives.getByRole('button', { name: 'A', exact: true })).toHaveCount(0);
  await expect(desk.levels()).toContainText(/out−2[23]\.\d/);
});

test('one stage is heard without and with, the change alone, and the region of a band alone', async ({
  page,
  desk,
}) => {
  await desk.openNewTrack('solo.wav', two(-40), 44100);
  await desk.addStage('Trim', 1);
  await desk.addStage('Equalizer', 2);
  await page.getByRole('button', { name: 'Add the first band' }).click();
  await desk.setValue('Frequency', '3000');
  await desk.setValue('Q', '6');
  await desk.setValue('Gain', '-12');
  await desk.checked();
  await page.getByRole('button', { name: 'Loudest passage', exact: true }).click();
  await page.getByRole('button', { name: 'Loop', exact: true }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const balance = async () => (await desk.heard(3000)) - (await desk.heard(1000));
  await expect.poll(balance).toBeCloseTo(-26, 0);
  await page.getByRole('button', { name: 'Hear without' }).click();
  await expect(page.getByRole('button', { name: '3 Without equalizer' })).toHaveAttribute('aria-pressed', 'true');
  await expect.poll(balance).toBeCloseTo(-14, 0);
  // Equal in loudness: what is cut away is given back to what stays.
  await expect(page.getByTestId('level-match')).toHaveText('without equalizer as it is');
  await page.keyboard.press('x');
  await expect.poll(balance).toBeCloseTo(-26, 0);
  await page.keyboard.press('b');
  await expect(page.getByRole('button', { name: '3 Without equalizer' })).toHaveCount(0);
  await page.keyboard.press('r');
  await expect.poll(balance).toBeGreaterThan(5);
  await page.keyboard.press('r');
  await expect.poll(balance).toBeCloseTo(-26, 0);
  await page.keyboard.press('c');
  // At equal loudness what changed is what was cut, and hardly anything of the rest.
  await expect.poll(balance).toBeGreaterThan(3);
});

test('what stands behind the curve is chosen and remembered', async ({ page, desk }) => {
  await desk.openDemoTrack('Perihelion');
  await desk.stage('Equalizer').click();
  // By selector: what lies after an open dialog has no role.
  const picture = page.locator('section[aria-label="Equalizer stage"] canvas');
  const seen = () => picture.evaluate((canvas: HTMLCanvasElement) => canvas.toDataURL());
  const withAverage = await seen();
  await page.getByRole('button', { name: 'Spectrum', exact: true }).click();
  const dialog = page.getByRole('dialog', { name: 'Spectrum' });
  await dialog.getByRole('checkbox', { name: 'Whole track' }).uncheck();
  await expect.poll(seen).not.toBe(withAverage);
  await dialog.getByRole('checkbox', { name: 'Whole track' }).check();
  await expect.poll(seen).toBe(withAverage);
  await dialog.getByRole('button', { name: '4.5' }).click();
  await expect.poll(seen).not.toBe(withAverage);
  await dialog.getByRole('button', { name: 'Fine' }).click();
  await dialog.getByRole('checkbox', { name: 'Held peaks' }).check();
  await page.reload();
  await desk.checked();
  await page.getByRole('button', { name: 'Spectrum', exact: true }).click();
  await expect(dialog.getByRole('button', { name: '4.5' })).toHaveAttribute('aria-pressed', 'true');
  await expect(dialog.getByRole('button', { name: 'Fine' })).toHaveAttribute('aria-pressed', 'true');
  await expect(dialog.getByRole('checkbox', { name: 'Held peaks' })).toBeChecked();
});

test('a stage is duplicated and copied to another track; undo goes across stages', async ({ page, desk }) => {
  const mix = { signal: both(sine(997, -20, 3, 44100)), sampleRate: 44100 };
  const { tracks } = await desk.newRelease('Pair', [
    { name: 'One.wav', ...mix },
    { name: 'Two.wav', ...mix },
  ]);
  await desk.openTrack(tracks[0]);
  await desk.addStage('Trim', 1);
  await desk.setValue('Gain', '-2');
  await desk.addStage('Equalizer', 2);
  await page.getByRole('button', { name: 'Add the first band' }).click();
  await desk.setValue('Gain', '3');
  await desk.saved();
  await page.keyboard.press('d');
  await expect.poll(() => desk.stops()).toEqual(['Trim−2.0 dB', 'Equalizer1 band', 'Equalizer1 band']);
  await desk.stageMenu('Copy to another track');
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: '2 · Two' }).click();
  await expect(dialog).toContainText('Copied to 2 · Two, version “First version”.');
  await dialog.getByRole('button', { name: 'Close' }).click();
  await desk.saved();
  // Back through the copy, the band's gain and the band to the trim.
  for (let i = 0; i < 3; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => desk.stops()).toEqual(['Trim−2.0 dB', 'Equalizer0 bands']);
  for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => desk.stops()).toEqual(['Trim0.0 dB']);
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect.poll(() => desk.stops()).toEqual(['Trim−2.0 dB']);
  await page.getByRole('link', { name: 'Next track' }).click();
  await desk.checked();
  await expect.poll(() => desk.stops()).toEqual(['Equalizer1 band']);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('button', { name: 'Start with a trim' })).toBeVisible();
});
