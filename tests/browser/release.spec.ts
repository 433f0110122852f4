import { music } from '../support/music';
import { both, sine } from '../support/signals';
import { wave } from '../support/wave';
import { expect, test } from './test';

test('a mix that is better sent back comes with a text for the client', async ({ page, context, desk }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await desk.openDemoRelease();
  await page.getByRole('button', { name: 'Copy note for the client' }).click();
  await expect(page.getByRole('button', { name: 'Copied: paste it into an e-mail' })).toBeVisible();
  const text = await page.evaluate(() => navigator.clipboard.readText());
  expect(text).toContain('Thank you for “Debris Field”');
  expect(text).toMatch(/- Clipped: \d+ runs/);
});

test('what was planted in the other pieces is found, with its figure', async ({ page, desk }) => {
  await desk.openDemoRelease();
  const findings = (title: string) =>
    page.getByRole('article', { name: title }).getByRole('list', { name: 'Findings' });
  await expect(findings('Undertow')).toContainText(/Below 120 Hz the correlation is −0\.9/);
  await expect(findings('Long Dusk')).toContainText(/The loudness range is 2\d\.\d LU/);
  await expect(findings('Zodiacal Light')).toContainText(
    /There is nothing above 2[01]\.\d kHz, as if it had been upsampled from 44\.1 kHz/,
  );
  await expect(page.getByRole('article', { name: 'Perihelion' })).toContainText('Good to go');
});

test('several mixes become tracks in one picture, with all their figures, and one walks from one to the next', async ({
  page,
  desk,
}) => {
  await desk.open('/');
  await page.getByLabel('Mixes to upload').setInputFiles([
    { name: 'One.wav', mimeType: 'audio/wav', buffer: wave(both(sine(997, -14, 4, 44100)), 44100) },
    { name: 'Two.wav', mimeType: 'audio/wav', buffer: wave(both(sine(997, -24, 4, 48000)), 48000) },
  ]);
  await expect(page.getByRole('link', { name: 'Open' })).toHaveCount(2, { timeout: 150_000 });
  await expect(page.getByRole('img', { name: /^Integrated loudness:/ })).toHaveAccessibleName(
    /1 · One mix −14\.0 LUFS, master −14\.0 LUFS; 2 · Two mix −24\.0 LUFS, master −24\.0 LUFS/,
  );
  const first = page.getByRole('article', { name: 'One' });
  await first.getByRole('button', { name: 'All figures' }).click();
  await expect(first).toContainText('Integrated−14.0 LUFS');
  await expect(first).toContainText('Sample peak L / R−14.0 / −14.0 dBFS');
  await expect(first).toContainText('Correlation1.00');
  await first.getByRole('link', { name: 'Open' }).click();
  await desk.checked();
  await page.getByRole('link', { name: 'Next track' }).click();
  await expect(page.getByText('2 · Two')).toBeVisible();
  await desk.checked();
  // Broadcast wants −23: a tone of −24 is quiet by 1, with room to raise it.
  await expect(page.getByRole('article', { name: 'Broadcast' })).toContainText('Raise by 1.0 dB at delivery');
});

test('a version is kept under a name, and each has a lane of its own', async ({ page, desk }) => {
  await desk.openNewTrack('versions.wav', both(sine(997, -20, 4, 44100)), 44100);
  await desk.addStage('Trim', 1);
  await desk.setValue('Gain', '-2');
  await desk.saved();
  await page.getByRole('combobox', { name: 'Version' }).click();
  await page.getByRole('option', { name: /Save as a new version/ }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Quieter');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('combobox', { name: 'Version' })).toHaveText('Version: Quieter');
  await desk.setValue('Gain', '-9');
  await desk.saved();
  await page.getByRole('combobox', { name: 'Version' }).click();
  await page.getByRole('option', { name: 'First version' }).click();
  await expect(desk.stage('Trim')).toHaveAccessibleName(/−2\.0 dB/);
  await page.reload();
  await desk.checked();
  await expect(page.getByRole('combobox', { name: 'Version' })).toHaveText('Version: First version');
});

test('a corrected mix slides under the lane, to the sample; the older one stays selectable', async ({ page, desk }) => {
  const piece = music(10, 44100);
  const clip = (x: number) => Math.max(-1, Math.min(1, 3 * x));
  const clipped = { left: piece.left.map(clip), right: piece.right.map(clip) };
  await desk.openNewTrack('Comet.wav', clipped, 44100);
  await desk.addStage('Trim', 1);
  await desk.setValue('Gain', '-2');
  await desk.saved();
  await page.getByRole('combobox', { name: 'Mix', exact: true }).click();
  await page.getByRole('option', { name: 'Upload a corrected mix…' }).click();
  const card = page.getByRole('article', { name: 'Comet' });
  await expect(card).toContainText('Clipped.');
  // It begins 37 ms later.
  const late = (x: Float64Array) => Float64Array.from({ length: x.length + 1632 }, (_, i) => x[i - 1632] ?? 0);
  const second = { left: late(piece.left), right: late(piece.right) };
  await page
    .getByLabel('Mix 2 to upload')
    .setInputFiles({ name: 'Comet fixed.wav', mimeType: 'audio/wav', buffer: wave(second, 44100) });
  await expect(card).toContainText('The file starts 37.0 ms later than mix 1; it was aligned to the sample', {
    timeout: 150_000,
  });
  await expect(card.getByRole('list', { name: 'Since mix 1' })).toContainText('Gone: Clipped.');
  await expect(card.getByRole('table', { name: 'Figures of mix 1 and mix 2' })).toContainText(/Clipped runs\d+0/);
  await card.getByRole('link', { name: 'Open' }).click();
  await desk.checked();
  await expect(page.getByRole('combobox', { name: 'Mix', exact: true })).toHaveText('Mix 2');
  await expect(desk.stage('Trim')).toHaveAccessibleName(/−2\.0 dB/);
  await expect(page.getByText('/ 0:10.0')).toBeVisible();
  await page.getByRole('combobox', { name: 'Mix', exact: true }).click();
  await page.getByRole('option', { name: /^Mix 1/ }).click();
  await desk.checked();
  await expect(page.getByRole('combobox', { name: 'Mix', exact: true })).toHaveText('Mix 1');
  await expect(desk.stage('Trim')).toHaveAccessibleName(/−2\.0 dB/);
});

test('an upload that is cancelled leaves nothing behind', async ({ page, desk }) => {
  await desk.open('/');
  await page.getByRole('button', { name: 'New release' }).click();
  await page.getByRole('textbox', { name: 'Title' }).fill('Cancelled');
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByRole('heading', { name: 'Cancelled' })).toBeVisible();
  // The upload is held up on its way, so that there is something to cancel.
  await page.route('**/api/uploads/*', (route) =>
    route.request().method() === 'PATCH' ? undefined : route.continue(),
  );
  await page
    .getByLabel('Mixes to upload')
    .setInputFiles({ name: 'held.wav', mimeType: 'audio/wav', buffer: wave(music(3, 44100), 44100) });
  await expect(page.getByRole('progressbar', { name: 'Upload of held.wav' })).toBeVisible();
  await page.getByRole('button', { name: 'Cancel', exact: true }).click();
  await expect(page.locator('[role=alert].MuiAlert-root')).toContainText('The upload was cancelled. Nothing was kept.');
  await page.reload();
  await expect(page.getByText('0 tracks')).toBeVisible();
});
