// What the page says while it waits: for a measurement, for the server, for the other window.
import { music } from '../support/music';
import { Desk } from './desk';
import { expect, test } from './test';

test('while the server is away steps are counted and kept, undo works, and all is sent when it is back', async ({
  page,
  desk,
}) => {
  await desk.openNewTrack('Away.wav', music(4, 44100), 44100);
  await desk.addStage('Trim', 1);
  await desk.saved();
  await page.route('**/api/versions/**', (route) => route.abort('connectionrefused'));
  for (const [i, gain] of ['-1', '-2', '-3'].entries()) {
    await desk.setValue('Gain', gain);
    await expect(page.getByText(`${i + 1} step${i > 0 ? 's' : ''} to be saved`)).toBeVisible();
  }
  await page.keyboard.press('Control+z');
  await expect(page.getByText('2 steps to be saved')).toBeVisible();
  await expect(desk.stage('Trim')).toHaveAccessibleName(/−2\.0 dB/);
  // Through what was saved, too, and back.
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect(desk.stage('Trim')).toHaveCount(0);
  await expect(page.getByText('1 step to be saved')).toBeVisible();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+Shift+z');
  await expect(page.getByText('2 steps to be saved')).toBeVisible();
  await expect(desk.stage('Trim')).toHaveAccessibleName(/−2\.0 dB/);
  // Leaving the page is asked about first.
  let asked = '';
  page.once('dialog', (dialog) => {
    asked = dialog.type();
    void dialog.dismiss();
  });
  await page.evaluate(() => window.location.reload());
  await expect.poll(() => asked).toBe('beforeunload');
  await page.unroute('**/api/versions/**');
  await desk.saved();
  await page.reload();
  await desk.checked();
  await expect(desk.stage('Trim')).toHaveAccessibleName(/−2\.0 dB/);
  // Both steps are in the history.
  await page.keyboard.press('Control+z');
  await expect(desk.stage('Trim')).toHaveAccessibleName(/−1\.0 dB/);
});

test('of two windows that change one version, either is chosen or both are kept', async ({ page, context, desk }) => {
  await desk.openNewTrack('Twice.wav', music(4, 44100), 44100);
  await desk.addStage('Trim', 1);
  await desk.saved();
  const other = new Desk(await context.newPage());
  await other.page.goto(page.url());
  await expect(other.stage('Trim')).toBeVisible();
  const dialog = page.getByRole('dialog', { name: /was changed in another window/ });
  const collide = async (theirs: string, mine: string) => {
    await other.setValue('Gain', theirs);
    await other.saved();
    await page.bringToFront();
    await desk.setValue('Gain', mine);
    await expect(dialog.getByRole('region', { name: 'In the other window' })).toContainText('Last step: Gain');
    await expect(dialog.getByRole('region', { name: 'Here, 1 step not saved' })).toBeVisible();
  };
  await collide('-4', '-5');
  await dialog.getByRole('button', { name: 'Use this one' }).click();
  await desk.saved();
  await expect(desk.stage('Trim')).toHaveAccessibleName(/−5\.0 dB/);
  await other.page.reload();
  await expect(other.stage('Trim')).toHaveAccessibleName(/−5\.0 dB/);
  await collide('-6', '-7');
  await dialog.getByRole('button', { name: 'Use the other' }).click();
  await expect(desk.stage('Trim')).toHaveAccessibleName(/−6\.0 dB/);
  await collide('-8', '-9');
  await dialog.getByRole('button', { name: 'Keep this one as a new version' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('combobox', { name: 'Version' })).toHaveText('Version: First version, other window');
  await expect(desk.stage('Trim')).toHaveAccessibleName(/−9\.0 dB/);
  await page.getByRole('combobox', { name: 'Version' }).click();
  await page.getByRole('option', { name: 'First version', exact: false }).first().click();
  await expect(desk.stage('Trim')).toHaveAccessibleName(/−8\.0 dB/);
});

test('while the track is measured again, verdicts are not shown as if they were of now', async ({ page, desk }) => {
  await desk.openDemoTrack('Perihelion');
  const streaming = page.getByRole('article', { name: 'Streaming' });
  await expect(streaming).not.toContainText('checking');
  // The measurement begins anew with every change; what is shown in between is caught as it is drawn.
  await page.evaluate(() => {
    const seen: string[] = ((window as unknown as { seen: string[] }).seen = []);
    const card = document.querySelector('[aria-label="Streaming"]')!;
    new MutationObserver(() => seen.push(card.textContent)).observe(card, {
      subtree: true,
      childList: true,
      characterData: true,
    });
  });
  await desk.stage('Trim').click();
  await desk.setValue('Gain', '-9');
  await desk.checked();
  const seen = await page.evaluate(() => (window as unknown as { seen: string[] }).seen);
  expect(seen.some((text) => text.includes('checking'))).toBe(true);
  expect(seen.filter((text) => text.includes('checking') && /meets|misses/.test(text))).toEqual([]);
});
