import { newClient, PASSWORD } from '../support/client';
import { music } from '../support/music';
import { wave } from '../support/wave';
import { expect, test } from './test';

test('an engineer signs in, sends a mix over a bad connection, changes the password and leaves', async ({ page }) => {
  const { email } = await newClient();
  const enter = async (password: string) => {
    await page.goto('/sign-in');
    await page.getByLabel('E-mail').fill(email);
    await page.getByLabel('Password').fill(password);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByRole('heading', { name: 'Releases' })).toBeVisible();
  };
  await enter(PASSWORD);

  // The second piece of the file is lost on its way, once.
  let pieces = 0;
  await page.route('**/api/uploads/*', async (route) => {
    const lost = route.request().method() === 'PATCH' && ++pieces === 2;
    await (lost ? route.abort('connectionreset') : route.continue());
  });
  const buffer = wave(music(40, 44100), 44100);
  await page.getByLabel('Mixes to upload').setInputFiles({ name: 'Long one.wav', mimeType: 'audio/wav', buffer });
  await expect(page.getByRole('article', { name: 'Long one' })).toBeVisible({ timeout: 150_000 });
  await expect(page.getByRole('link', { name: 'Open' })).toBeVisible({ timeout: 150_000 });
  expect(pieces).toBeGreaterThan(2);

  await page.getByRole('link', { name: 'Settings' }).click();
  const browsers = page.getByRole('list', { name: 'Signed-in browsers' }).getByRole('listitem');
  await expect(browsers).toHaveCount(2);
  await expect(browsers.filter({ hasText: 'this browser' })).toHaveCount(1);
  const password = page.getByRole('region', { name: 'Password' });
  await password.getByLabel('Current password').fill('not this one');
  await password.getByLabel('New password').fill('a new long password');
  await password.getByRole('button', { name: 'Change password' }).click();
  await expect(password.getByRole('alert')).toContainText('not your current password');
  await password.getByLabel('Current password').fill(PASSWORD);
  await password.getByRole('button', { name: 'Change password' }).click();
  await expect(password.getByRole('alert')).toContainText('signed out everywhere else');
  await expect(browsers).toHaveCount(1);
  await page.getByRole('button', { name: 'Sign out', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();

  await enter('a new long password');
  await page.goto('/settings');
  const end = page.getByRole('region', { name: 'Delete account' });
  await end.getByLabel('Confirm with your password').fill('a new long password');
  await end.getByRole('button', { name: 'Delete this account' }).click();
  await expect(page).toHaveURL(/sign-in/);
});
