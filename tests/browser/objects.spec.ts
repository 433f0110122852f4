// Releases, tracks and versions as an engineer handles them: rename, order, delete and have back, file away.
import { newClient, PASSWORD } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';
import { Desk } from './desk';
import { expect, test } from './test';

const buffer = wave(music(2, 44100), 44100);
const file = (name: string) => ({ name, mimeType: 'audio/wav', buffer });

test('a link to a track survives signing in, and an unknown address leads home', async ({ page }) => {
  const desk = new Desk(page);
  await desk.signIn();
  await desk.openDemoTrack('Undertow');
  const track = page.url();
  await expect(page).toHaveTitle('Undertow · Copper Lane');
  await page.context().clearCookies();
  await page.goto(track);
  await expect(page).toHaveTitle('Sign in · Copper Lane');
  await page.getByRole('button', { name: 'Open the demo' }).click();
  await expect(page).toHaveURL(track);
  await desk.checked();
  await page.goto('/tracks/00000000-0000-4000-8000-000000000000');
  await page.getByRole('link', { name: 'Go to your releases' }).click();
  await expect(page.getByRole('heading', { name: 'Releases' })).toBeVisible();
});

test('several mixes name their release; tracks are renamed, moved, deleted and brought back', async ({ page }) => {
  const { email } = await newClient();
  await page.goto('/sign-in');
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page
    .getByLabel('Mixes to upload')
    .setInputFiles([file('Slow Orbits - 02 - Aphelion.wav'), file('Slow Orbits - 01 - Perihelion.wav')]);
  await expect(page.getByRole('heading', { name: 'Slow Orbits' })).toBeVisible();
  const titles = () => page.getByRole('article').getByRole('heading', { level: 2 });
  await expect(titles()).toHaveText(['1 · Perihelion', '2 · Aphelion'], { timeout: 30_000 });
  await expect(page.getByRole('link', { name: 'Open' })).toHaveCount(2, { timeout: 150_000 });

  await page.getByRole('button', { name: 'Rename Aphelion' }).click();
  await page.getByRole('textbox', { name: 'Title of Aphelion' }).fill('');
  await expect(page.getByText('Give the track a title.')).toBeVisible();
  await page.getByRole('textbox', { name: 'Title of Aphelion' }).fill('Far Point');
  await page.keyboard.press('Enter');
  await expect(titles()).toHaveText(['1 · Perihelion', '2 · Far Point']);
  await expect(page.getByRole('button', { name: 'Rename Far Point' })).toBeFocused();

  // By keys: pick it up, one place up, put it down.
  await page.getByRole('button', { name: 'Move Far Point' }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText('Far Point is over place 2 of 2.')).toBeAttached();
  await page.keyboard.press('ArrowUp');
  await expect(page.getByText('Far Point is over place 1 of 2.')).toBeAttached();
  await page.keyboard.press('Space');
  await expect(titles()).toHaveText(['1 · Far Point', '2 · Perihelion']);
  await page.reload();
  await expect(titles()).toHaveText(['1 · Far Point', '2 · Perihelion']);

  await page.getByRole('button', { name: 'More for Far Point' }).click();
  await page.getByRole('menuitem', { name: 'Particulars…' }).click();
  await page.getByRole('textbox', { name: 'ISRC' }).fill('AA-6Q7');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('An ISRC has 12 characters, such as')).toBeVisible();
  await page.getByRole('textbox', { name: 'ISRC' }).fill('AA-6Q7-20-00047');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('dialog')).toBeHidden();

  await page.getByRole('button', { name: 'More for Far Point' }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(titles()).toHaveText(['1 · Perihelion']);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(titles()).toHaveText(['1 · Far Point', '2 · Perihelion']);

  // A whole release, and from the settings.
  await page.getByRole('button', { name: 'More for Slow Orbits' }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(page.getByRole('heading', { name: 'Releases' })).toBeVisible();
  await expect(page.getByRole('link', { name: /Slow Orbits/ })).toHaveCount(0);
  await page.getByRole('link', { name: 'Settings' }).click();
  await page.getByRole('button', { name: 'Restore Slow Orbits' }).click();
  await expect(page.getByText('“Slow Orbits” is back.')).toBeVisible();
  await page.getByRole('link', { name: 'Releases' }).click();
  const row = page.getByRole('link', { name: /Slow Orbits/ });
  await expect(row).toContainText('In work');
  await page.getByRole('button', { name: 'More for Slow Orbits' }).click();
  await page.getByRole('menuitem', { name: 'Archive' }).click();
  await expect(row).toHaveCount(0);
  await page.getByRole('button', { name: 'Show the archive' }).click();
  await expect(row).toBeVisible();
});

test('versions are renamed, reordered and deleted, with a way back; the open one is followed by the next', async ({
  page,
  desk,
}) => {
  await desk.openNewTrack('Versions.wav', music(3, 44100), 44100);
  const version = page.getByRole('combobox', { name: 'Version' });
  await version.click();
  await page.getByRole('option', { name: /Save as a new version/ }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Quieter');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(version).toHaveText('Version: Quieter');
  await version.click();
  await page.getByRole('option', { name: /^Rename, reorder/ }).click();
  const items = page.getByRole('list', { name: 'Versions' }).getByRole('heading');
  await page.getByRole('button', { name: 'Rename Quieter' }).click();
  await page.getByRole('textbox', { name: 'Title of Quieter' }).fill('Calm');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Move Calm up' }).click();
  await expect(items).toHaveText(['Calm', 'First version']);
  await page.getByRole('button', { name: 'Delete Calm' }).click();
  await expect(items).toHaveText(['First version']);
  await expect(page.getByRole('button', { name: 'Delete First version' })).toBeDisabled();
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(version).toHaveText('Version: First version');
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await version.click();
  await expect(page.getByRole('option', { name: /^Calm/ })).toBeVisible();
});

test('what is set in the settings stays, and says what it will do', async ({ page }) => {
  const { email } = await newClient();
  await page.goto('/sign-in?next=/settings');
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  const deliveries = page.getByRole('region', { name: 'Deliveries' });
  await deliveries.getByLabel('File name').fill('{position} {label}');
  await expect(deliveries).toContainText('{label} is not a part of a name.');
  await deliveries.getByLabel('File name').fill('{position} {title}');
  await expect(deliveries).toContainText('Such as “02 Long Dusk.wav”');
  await deliveries.getByLabel('Engineer, for receipts').fill('E. Sample');
  await deliveries.getByRole('button', { name: 'Save' }).click();
  await expect(deliveries).toContainText('Saved.');
  await page.getByRole('radio', { name: /^Night/ }).check();
  await page.reload();
  await expect(deliveries.getByLabel('File name')).toHaveValue('{position} {title}');
  await expect(deliveries.getByLabel('Engineer, for receipts')).toHaveValue('E. Sample');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
  const you = page.getByRole('region', { name: 'You', exact: true });
  await you.getByRole('textbox', { name: 'Name' }).fill('Another name');
  await you.getByRole('button', { name: 'Save' }).click();
  await expect(you).toContainText('Saved.');
  await expect(page.getByText(`Another name, ${email}`)).toBeVisible();
});
