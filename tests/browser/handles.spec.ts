// Handles on a phone: heard live through the worklet, sent as a proposal, kept while there is no connection, taken as one step.
import type { LinkSummary } from '@/contracts/listening';
import type { TrackDetails } from '@/contracts/track';
import { both, sine } from '../support/signals';
import { violations } from './axe';
import { Desk } from './desk';
import { expect, test } from './test';

const RATE = 44100;

test('handles are heard live on a phone; what is proposed becomes one step in the workspace', async ({
  page,
  desk,
  browser,
}) => {
  const [low, high] = [150, 3500].map((frequency) => sine(frequency, -26, 40, RATE));
  const mix = both(low.map((sample, i) => sample + high[i]));
  await desk.openNewTrack('Handles.wav', mix, RATE);
  await desk.addStage('Limiter', 1);
  await desk.saved();
  const trackId = page.url().split('/').at(-1)!;
  const { release } = (await (await page.request.get(`/api/tracks/${trackId}`)).json()) as TrackDetails;
  const links = `/api/releases/${release.id}/links`;
  const asked = await page.request.post(links, { data: { recipient: 'Dana', handles: true, tracks: [{ trackId }] } });
  expect(asked.ok()).toBe(true);
  const link = async () => ((await (await page.request.get(links)).json()) as LinkSummary[])[0];
  await expect.poll(async () => (await link()).status, { timeout: 120_000 }).toBe('finished');
  const { path: address } = await link();

  const context = await browser.newContext({
    ...{ viewport: { width: 360, height: 740 }, isMobile: true, hasTouch: true, colorScheme: 'dark' },
  });
  const phone = await context.newPage();
  const ear = new Desk(phone);
  await ear.listen();
  await phone.goto(address!);
  await phone.getByRole('link', { name: /^Change the sound of “Handles”/ }).tap();
  const play = phone.getByRole('button', { name: 'Play', exact: true });
  await expect(play).toBeEnabled();
  const width = await phone.evaluate(() => document.documentElement.scrollWidth);
  expect(width).toBeLessThanOrEqual(360);
  expect(await violations(phone, 'handles at night')).toEqual([]);
  await play.tap();
  await expect.poll(() => ear.heard(150)).toBeGreaterThan(-45);
  await ear.filled();
  const balance = async () => (await ear.heard(3500)) - (await ear.heard(150));
  expect(Math.abs(await balance())).toBeLessThan(0.3);
  // Presence lifts what lies around 3.5 kHz by 3 dB, while it plays.
  await phone.getByRole('slider', { name: 'Presence' }).fill('100');
  await expect(phone.getByText('+50')).toBeVisible();
  await expect.poll(async () => Math.abs((await balance()) - 3)).toBeLessThan(0.3);
  await phone.getByRole('button', { name: 'Before' }).tap();
  await expect(phone.getByRole('button', { name: 'Before' })).toHaveAttribute('aria-pressed', 'true');
  await expect.poll(async () => Math.abs(await balance())).toBeLessThan(0.3);
  await phone.getByRole('slider', { name: 'Loudness' }).fill('75');
  await expect(phone.getByRole('button', { name: 'Yours' })).toHaveAttribute('aria-pressed', 'true');
  await expect.poll(async () => Math.abs((await balance()) - 3)).toBeLessThan(0.3);

  // In a tunnel: it goes on playing, and the proposal waits.
  await context.setOffline(true);
  await expect(phone.getByText('You are offline.')).toBeVisible();
  await ear.played(0.5);
  expect(Math.abs((await balance()) - 3)).toBeLessThan(0.3);
  await phone.getByRole('button', { name: 'Send as a proposal' }).tap();
  await expect(phone.getByText(/^A proposal waits on this device/)).toBeVisible();

  // Meanwhile the version is changed in the workspace: neither overwrites the other.
  await desk.setValue('Input gain', '2');
  await desk.saved();
  await context.setOffline(false);
  await expect(phone.getByText(/^A proposal waits/)).toHaveCount(0);
  await context.close();

  await page.reload();
  await desk.checked();
  const button = page.getByRole('button', { name: 'Proposals, 1 to answer' });
  await button.click();
  const sheet = page.getByRole('dialog', { name: 'Proposals' });
  await expect(sheet.getByText('Loudness 50 → 75, Presence 50 → 100')).toBeVisible();
  await expect(sheet.getByText(/^The version was changed since/)).toBeVisible();
  expect(await violations(page, 'proposals')).toEqual([]);
  const hear = sheet.getByRole('button', { name: 'Hear it' });
  await hear.click();
  await expect(hear).toHaveAttribute('aria-pressed', 'true');
  await sheet.getByRole('button', { name: 'Take as one step' }).click();
  await expect(sheet.getByText('taken')).toBeVisible();
  await page.keyboard.press('Escape');
  await desk.checked();
  await expect
    .poll(() => desk.stops())
    .toEqual([
      expect.stringMatching(/^Equalizer/),
      expect.stringMatching(/^Stereo/),
      expect.stringMatching(/^Limiter/),
    ]);
  await desk.stage('Limiter').click();
  await expect(page.getByRole('textbox', { name: 'Input gain value', exact: true })).toHaveValue('4.0');
  await page.getByRole('button', { name: 'Undo' }).click();
  await desk.checked();
  await expect.poll(() => desk.stops()).toEqual([expect.stringMatching(/^Limiter/)]);
  await expect(page.getByRole('textbox', { name: 'Input gain value', exact: true })).toHaveValue('2.0');
});
