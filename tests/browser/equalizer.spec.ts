import { expect, test } from '@playwright/test';
import { both, sine } from '../support/signals';
import { Desk } from './desk';

let desk: Desk;
test.beforeEach(async ({ page }) => {
  desk = new Desk(page);
  await desk.listen();
  await desk.signIn();
});

test('a band on the side leaves what both sides share, and takes what they do not', async ({ page }) => {
  const tone = sine(1000, -20, 4, 44100);
  await desk.openNewTrack('wide.wav', { left: tone, right: tone.map((x) => -x) }, 44100);
  await desk.addStage('Equalizer', 1);
  await page.getByRole('button', { name: 'Add the first band' }).click();
  await desk.setValue('Frequency', '1000');
  await desk.setValue('Gain', '-6');
  await page.getByRole('combobox', { name: 'Works on' }).click();
  await page.getByRole('option', { name: 'Mid' }).click();
  await desk.passed();
  const levels = page.getByRole('region', { name: 'Equalizer stage' }).locator('dl');
  await expect(levels).toContainText('out−20.0 LUFS');
  await page.getByRole('combobox', { name: 'Works on' }).click();
  await page.getByRole('option', { name: 'Side' }).click();
  await expect(levels).toContainText('out−26.0 LUFS');
  // All gains together: half the decibels.
  await desk.setValue('All gains', '50');
  await expect(levels).toContainText('out−23.0 LUFS');
});

test('a double-click adds a band where it was pressed; shapes show the controls that work on them', async ({
  page,
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

test('a control takes keys, the wheel, typed values and a double-click', async ({ page }) => {
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
  await expect(value).toHaveValue('−3.5');
  await rail.dblclick({ position: { x: 10, y: 10 } });
  await expect(value).toHaveValue('0.0');
  await desk.saved();
});
