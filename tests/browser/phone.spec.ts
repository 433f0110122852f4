// The listening page on phones: sizes common among them (common practice, no source), with touch.
import { devices, type Browser, type BrowserContext, type Page } from '@playwright/test';
import { programme } from '../support/programme';
import { violations } from './axe';
import { expect, test } from './test';

const RATE = 44100;
const { userAgent } = devices['Pixel 7'];

/** Opens a page as on a phone; what it plays can be looked at. */
async function phone(
  browser: Browser,
  size: { width: number; height: number },
): Promise<{ context: BrowserContext; page: Page }> {
  const context = await browser.newContext({
    ...{ viewport: size, userAgent, isMobile: true, hasTouch: true, deviceScaleFactor: 2 },
  });
  const page = await context.newPage();
  await page.addInitScript(() => {
    const scope = window as unknown as { made: HTMLAudioElement[]; Audio: unknown };
    scope.made = [];
    const Native = Audio;
    scope.Audio = function () {
      const audio = new Native();
      scope.made.push(audio);
      return audio;
    };
  });
  return { context, page };
}

/** What is heard now: the source, and how much of it has been played since the page was opened. */
const heard = (page: Page) =>
  page.evaluate(() => {
    const audible = (window as unknown as { made: HTMLAudioElement[] }).made.filter(
      ({ muted, paused, volume, src }) => src !== '' && !muted && !paused && volume > 0.9,
    );
    return audible.map(({ src, currentTime }) => ({ source: /streams\/(\w+)\//.exec(src)?.[1], currentTime }));
  });
const expectHeard = async (page: Page, source: string) => {
  await expect.poll(async () => (await heard(page)).map((each) => each.source)).toEqual([source]);
  const [{ currentTime }] = await heard(page);
  await expect.poll(async () => (await heard(page))[0]?.currentTime ?? 0).toBeGreaterThan(currentTime);
};

test('a client listens on a phone, writes a note, approves and takes a blind test; all of it arrives', async ({
  page,
  desk,
  browser,
}) => {
  const { left, right } = programme(8, RATE);
  const mix = (name: string, gain: number) => ({
    ...{ name, sampleRate: RATE },
    signal: { left: Float64Array.from(left, (x) => gain * x), right: Float64Array.from(right, (x) => gain * x) },
  });
  const { id } = await desk.newRelease('Clouds', [mix('Cirrus.wav', 1), mix('Nimbus.wav', 0.5)]);
  await desk.open(`/releases/${id}`);
  await page.getByRole('button', { name: 'Listening page…' }).click();
  const dialog = page.getByRole('dialog', { name: /^Listening page/ });
  await dialog.getByLabel('For whom').fill('Dana');
  await dialog.getByRole('combobox', { name: 'Blind test' }).click();
  await page.getByRole('option', { name: 'On Nimbus' }).click();
  await dialog.getByRole('button', { name: 'Make the link' }).click();
  const made = dialog.getByRole('article', { name: 'Link for Dana' });
  await expect(made).toContainText('not opened yet');
  await expect(made).toBeVisible();
  await expect(made.getByRole('progressbar')).toHaveCount(0);
  const address = (await made.getByRole('link', { name: 'Open' }).getAttribute('href'))!;

  const small = await phone(browser, { width: 360, height: 740 });
  const client = small.page;
  let bytes = 0;
  const session = await small.context.newCDPSession(client);
  const streams = new Set<string>();
  await session.send('Network.enable');
  session.on('Network.responseReceived', ({ requestId, response }) => {
    if (response.url.includes('/streams/')) streams.add(requestId);
  });
  session.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    if (!streams.has(requestId)) bytes += encodedDataLength;
  });
  await client.goto(address);
  const play = client.getByRole('button', { name: 'Play', exact: true });
  await expect(play).toBeVisible();
  await client.waitForLoadState('load');
  expect(bytes).toBeGreaterThan(50_000);
  expect(bytes).toBeLessThan(250_000);
  // Not against the window, which grows with what sticks out on a phone.
  const overflow = async () =>
    (await client.evaluate(() => document.documentElement.scrollWidth)) - client.viewportSize()!.width;
  await expect.poll(overflow).toBe(0);
  await expect(client.getByText('Test engineer')).toBeVisible();

  await play.tap();
  await expectHeard(client, 'master');
  await client.getByRole('button', { name: 'Mix', exact: true }).tap();
  await expectHeard(client, 'mix');
  await client.getByRole('button', { name: 'Master', exact: true }).tap();
  await expectHeard(client, 'master');
  await client.getByRole('button', { name: 'Next track' }).tap();
  await expect(client.getByRole('heading', { name: 'Nimbus' })).toBeVisible();
  await expectHeard(client, 'master');
  await client.getByRole('button', { name: 'Pause' }).tap();
  await client.getByRole('slider', { name: 'Place in Nimbus' }).fill('3');
  await client.getByRole('button', { name: 'Write a note at 0:03' }).tap();
  const sheet = client.getByRole('dialog', { name: 'Nimbus, 0:03' });
  await expect(sheet.getByLabel('Your name')).toHaveValue('Dana');
  await sheet.getByLabel('What do you hear?').fill('voice too sharp');
  expect(await violations(client, 'note')).toEqual([]);
  await sheet.getByRole('button', { name: 'Send the note' }).tap();
  await expect(client.getByRole('button', { name: 'Go to 0:03' })).toBeVisible();
  await client.getByRole('button', { name: 'Approve the whole release' }).tap();
  await expect(client.getByText('Everything here is approved. Thank you.')).toBeVisible();
  expect(await violations(client, 'page')).toEqual([]);
  await expect.poll(overflow).toBe(0);

  await client.getByRole('button', { name: /^Blind test/ }).tap();
  const blind = client.getByRole('dialog', { name: 'Blind test: Nimbus' });
  await blind.getByRole('button', { name: 'Start' }).tap();
  for (let trial = 1; trial <= 6; trial++) {
    await expect(blind.getByText(`Trial ${trial} of 6`)).toBeVisible();
    await expect(blind.getByRole('button', { name: 'A is better' })).toBeDisabled();
    for (const letter of ['A', 'B']) {
      await blind.getByRole('button', { name: letter, exact: true }).tap();
      await expect(blind.getByRole('button', { name: letter, exact: true })).toHaveAttribute('aria-pressed', 'true');
      // Only what has sounded was heard.
      await expect(blind.getByText(new RegExp(`^Listen to .*${letter}.* first`))).toHaveCount(0);
    }
    await blind.getByRole('button', { name: 'A is better' }).tap();
  }
  await expect(blind.getByText(/^Thank you\. Chose .* of 6 trials/)).toBeVisible();
  await blind.getByRole('button', { name: 'Close' }).tap();

  // The place is remembered, in whatever size the page is opened next.
  await client.setViewportSize({ width: 390, height: 844 });
  await client.reload();
  await expect(client.getByRole('heading', { name: 'Nimbus' })).toBeVisible();
  await expect(client.getByRole('slider', { name: 'Place in Nimbus' })).toHaveAttribute('aria-valuetext', /^0:03 of/);
  await expect.poll(overflow).toBe(0);
  await small.context.close();

  // In the workspace: on the release, in the inbox, and on the programme.
  await page.reload();
  await expect(page.getByRole('article', { name: 'Nimbus' }).getByText(/^Approved by Dana/)).toBeVisible();
  await page.goto('/');
  const inbox = page.getByRole('region', { name: 'From listeners' });
  await expect(
    inbox.getByRole('listitem').filter({ hasText: 'Dana took the blind test on Nimbus. Chose' }),
  ).toBeVisible();
  await expect(
    page
      .getByRole('link', { name: /^Clouds/ })
      .first()
      .getByText('Approved'),
  ).toBeVisible();
  const note = inbox.getByRole('listitem').filter({ hasText: 'Dana on Nimbus, 0:03: “voice too sharp”' });
  await note.getByRole('link', { name: 'Nimbus' }).click();
  await desk.checked();
  await expect.poll(() => desk.position()).toBeCloseTo(3, 0);
  await page.goto('/');
  await inbox.getByRole('button', { name: 'Mark as seen' }).click();
  await expect(inbox.getByRole('listitem')).toHaveCount(0);

  await test.step('without a connection it plays on, and notes go out later', async () => {
    const { context, page: far } = await phone(browser, { width: 390, height: 844 });
    await far.goto(address);
    await far.getByRole('button', { name: 'Play', exact: true }).tap();
    await expect(far.getByText(/Kept on this device/)).toBeVisible();
    await far.getByRole('button', { name: 'Pause' }).tap();
    // Clients visit once: what is kept then has to be all.
    await context.setOffline(true);
    await far.reload();
    await expect(far.getByText('You are offline.')).toBeVisible();
    await far.getByRole('button', { name: 'Play', exact: true }).tap();
    await expectHeard(far, 'master');
    await far.getByRole('button', { name: 'Mix', exact: true }).tap();
    await expectHeard(far, 'mix');
    await far.getByRole('button', { name: 'Pause' }).tap();
    await far.getByRole('button', { name: /^Write a note/ }).tap();
    await far.getByLabel('What do you hear?').fill('written in the tunnel');
    await far.getByRole('button', { name: 'Send the note' }).tap();
    await expect(far.getByText(/^One answer waits on this device/)).toBeVisible();
    await far.getByRole('button', { name: 'Take back the approval of Nimbus' }).tap();
    await expect(far.getByText(/^2 answers wait on this device/)).toBeVisible();
    await expect(far.getByRole('button', { name: 'Approve Nimbus' })).toBeVisible();
    await context.setOffline(false);
    await expect(far.getByText(/answers? waits? on this device/)).toHaveCount(0);
    await expect(far.getByRole('button', { name: 'Approve Nimbus' })).toBeVisible();
    await expect(far.getByText('written in the tunnel')).toBeVisible();
    await context.close();
    await page.reload();
    await expect(inbox.getByRole('listitem').filter({ hasText: 'written in the tunnel' })).toBeVisible();
  });
});
