// Masters as the release page knows them, deliveries of many at once, and tracks that open with what was measured before.
import { music } from '../support/music';
import { wave } from '../support/wave';
import { expect, test } from './test';

const RATE = 44100;
const file = (name: string, seconds: number) => ({
  name,
  mimeType: 'audio/wav',
  buffer: wave(music(seconds, RATE), RATE),
});

test('a track that was measured before is drawn before its mix has arrived', async ({ page, desk }) => {
  await desk.openNewTrack('Kept.wav', music(8, RATE), RATE);
  await desk.addStage('Limiter', 1);
  await desk.setValue('Input gain', '9');
  await desk.checked();
  await desk.saved();
  const id = page.url().split('/').at(-1)!;
  const { versions } = (await (await page.request.get(`/api/tracks/${id}`)).json()) as { versions: { id: string }[] };
  // The page brings what it measured to the server a moment after the last change.
  await expect
    .poll(async () => (await page.request.get(`/api/versions/${versions[0].id}/measurement`)).status())
    .toBe(200);
  const verdict = page.getByRole('article', { name: 'Streaming' });
  const before = await verdict.innerText();
  await page.getByRole('navigation', { name: 'Where you are' }).getByRole('link').last().click();

  let arrive = () => {};
  const arrival = new Promise<void>((resolve) => (arrive = resolve));
  await page.route('**/api/mixes/*/audio', async (route) => {
    await arrival;
    await route.continue();
  });
  await page.getByRole('link', { name: 'Open' }).click();
  await expect(page.getByTestId('measuring-state')).toHaveText('whole track checked');
  await expect(verdict).toHaveText(before.replaceAll('\n', ''), { useInnerText: false });
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeDisabled();
  // What is changed meanwhile is not what was measured.
  await desk.setValue('Input gain', '6');
  await expect(verdict).toContainText('checking');
  arrive();
  await desk.checked();
  await expect(verdict).not.toContainText(/checking/);
  await expect(verdict.getByText('LUFS').last()).not.toHaveText(/^$/);
  expect(await verdict.innerText()).not.toBe(before);
});

test('the release shows each master, says what is refused, and delivers all of them at once', async ({
  page,
  desk,
}) => {
  await desk.open('/');
  await page
    .getByLabel('Mixes to upload')
    .setInputFiles([file('Pair - 01 - Near.wav', 5), file('Pair - 02 - Far.wav', 6)]);
  const near = page.getByRole('region', { name: 'Master of Near' });
  await expect(near.getByRole('img', { name: 'Waveform of Near: mix and master' })).toBeVisible({ timeout: 150_000 });
  await expect(near).toContainText(/Loudness−\d+\.\d LUFS/);
  await expect(near.getByRole('row', { name: /^Disc meets/ })).toBeVisible();
  await expect(page.getByRole('img', { name: /1 · Near mix −.* master −.*; 2 · Far mix −.* master −/ })).toBeVisible({
    timeout: 60_000,
  });

  await page.route('**/api/tracks/*', (route) =>
    route.request().method() === 'PATCH'
      ? route.fulfill({ status: 503, json: { error: 'The database can’t be reached right now.', code: 'unavailable' } })
      : route.continue(),
  );
  await page.getByRole('button', { name: 'Rename Near' }).click();
  await page.getByRole('textbox', { name: 'Title of Near' }).fill('Nearer');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').getByText('The database can’t be reached right now.')).toBeVisible();
  await expect(page.getByRole('article', { name: 'Near' })).toBeVisible();

  await page.getByRole('button', { name: 'Deliver…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Deliver “Pair”' });
  await dialog.getByRole('checkbox', { name: 'Near for Broadcast' }).uncheck();
  const order = dialog.getByRole('button', { name: /^Deliver \d+ files$/ });
  const [, files] = /(\d+)/.exec((await order.textContent())!)!;
  await order.click();
  await expect(dialog.getByText('last file:')).toHaveCount(Number(files), { timeout: 60_000 });
  await expect(dialog.getByText(/last file:.*(meets|misses)/)).toHaveCount(Number(files), { timeout: 150_000 });
  await dialog.getByRole('button', { name: 'Close' }).click();
  await expect(near.getByRole('link', { name: /^delivery meets/ }).first()).toBeVisible();
});
