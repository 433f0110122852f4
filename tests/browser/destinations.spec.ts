import { sine, both } from '../support/signals';
import { expect, test } from './test';

const RATE = 44100;

test('a destination is written as a sentence, taken by a release, checked in an encode and judged', async ({
  page,
  desk,
}) => {
  await page.goto('/destinations');
  await page.getByRole('button', { name: 'New destination' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox', { name: 'Name', exact: true }).fill('Clean store');
  await dialog.getByRole('textbox', { name: 'Source of its figures' }).fill('The store’s own list');
  await dialog.getByRole('checkbox', { name: 'Loudness, integrated' }).uncheck();
  await dialog.getByRole('checkbox', { name: 'Short-term, highest' }).check();
  await dialog.getByRole('textbox', { name: 'At most, LUFS' }).fill('−3');
  await dialog.getByRole('group', { name: 'True peak' }).getByRole('textbox').fill('-0,5');
  await dialog.getByRole('button', { name: 'Add an encode' }).click();
  await expect(dialog.getByRole('status')).toHaveText(
    'Nowhere over −3.0 LUFS in 3 s, at most −0.5 dBTP, at most 0.0 dBTP in AAC 256 kb/s, the mix’s own rate, 24-bit FLAC, TPDF.',
  );
  await dialog.getByRole('group', { name: 'True peak' }).getByRole('textbox').fill('3');
  await dialog.getByRole('button', { name: 'Put on the shelf' }).click();
  await expect(dialog.getByText('Enter a number from −12 to 0 dBTP.').first()).toBeVisible();
  await dialog.getByRole('group', { name: 'True peak' }).getByRole('textbox').fill('-0.5');
  await dialog.getByRole('button', { name: 'Put on the shelf' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('heading', { name: 'Clean store' })).toBeVisible();

  await desk.openNewTrack('tone.wav', both(sine(997, -6, 5, RATE)), RATE);
  await page.getByRole('navigation').getByRole('link').nth(1).click();
  await page.getByRole('button', { name: 'Change destinations…' }).click();
  // The list is the server's: it follows a moment later.
  await page.getByRole('dialog').getByRole('checkbox', { name: 'Clean store' }).click();
  await expect(page.getByRole('dialog').getByRole('checkbox', { name: 'Clean store' })).toBeChecked();
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByText(/^For .*Clean store/)).toBeVisible();
  await page.getByRole('link', { name: 'Open' }).click();
  await desk.checked();
  const card = page.getByRole('article', { name: 'Clean store' });
  await expect(card).toContainText('not known yet');
  // The loudest passage is encoded again after each change.
  const passage = card.getByLabel('AAC 256 kb/s, loudest passage');
  const peak = async () =>
    Number((await passage.getByRole('definition').textContent())?.replace('−', '-').split(' ')[0]);
  await expect.poll(peak).toBeLessThan(-5);
  expect(await peak()).toBeGreaterThan(-7);
  await desk.addStage('Trim', 1);
  await desk.setValue('Gain', '3');
  await expect.poll(peak).toBeGreaterThan(-4);
  expect(await peak()).toBeLessThan(-2);
  await page.getByRole('button', { name: 'Check encodes…' }).click();
  await page.getByRole('button', { name: 'Check AAC 256 kb/s, as asked' }).click();
  await expect(page.getByText('It stays within 0.0 dBTP.')).toBeVisible({ timeout: 120_000 });
  await page.getByRole('button', { name: 'Hear the change alone' }).click();
  await expect(page.getByRole('dialog')).toBeHidden();
  const encode = page.getByRole('button', { name: /AAC 256 kb\/s/ });
  await expect(encode).toHaveAttribute('aria-description', /raised|lowered|as it is/, { timeout: 30_000 });
  await expect(page.getByRole('button', { name: 'Change', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await expect(card).toContainText('meets');
  await expect(passage).toBeHidden();

  // Delivered at another level, it goes to the receiving desk; the level stays with the version.
  await page.getByRole('button', { name: 'Deliver…' }).click();
  await page.getByRole('radio', { name: /Streaming/ }).click();
  await page.getByRole('button', { name: 'Start delivery' }).click();
  await page.getByRole('button', { name: 'Hand the file over' }).click({ timeout: 120_000 });
  await expect(page.getByRole('region', { name: 'Receiving desk (simulated)' })).toContainText('Accepted');
  await page.getByRole('link', { name: 'Back to the track' }).click();
  const streaming = page.getByRole('article', { name: 'Streaming' });
  await expect(streaming).toContainText(/Level −\d/);
  await streaming.getByRole('button', { name: /^Take off/ }).click();
  await expect(streaming).not.toContainText('Level');

  // The release says the same of the master, encode included.
  await page.getByRole('navigation').getByRole('link').nth(1).click();
  await expect(page.getByRole('row', { name: /Clean store/ })).toContainText('meets');

  await page.goto('/destinations');
  await page.getByRole('button', { name: 'Delete Clean store' }).click();
  await expect(page.getByRole('heading', { name: 'Clean store' })).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('heading', { name: 'Clean store' })).toBeVisible();
  await page.getByRole('button', { name: 'Delete Clean store' }).click();
  await expect(page.getByRole('heading', { name: 'Clean store' })).toBeHidden();
});
