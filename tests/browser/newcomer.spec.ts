// What people run: ./start as it comes, fresh profiles of two browsers with nothing blocked, two visits and a restart. Whatever
// the console, the network or the page says of an error fails it.
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { chromium, expect, test, type BrowserContext, type Page } from '@playwright/test';
import puppeteer from 'puppeteer-core';
import { Supervised } from '../support/supervised';
import { Desk } from './desk';

// One installation for all of them.
test.describe.configure({ mode: 'default' });

let profiles: string;
// With its defaults, but for ports and a folder that nothing else uses.
const installation = new Supervised({ COPPER_LOG_LEVEL: 'warn' });
/** From nothing: it makes the demo as well. */
const FIRST_START_MS = 240_000;

test.beforeAll(async () => {
  test.setTimeout(FIRST_START_MS + 60_000);
  profiles = mkdtempSync(path.join(os.tmpdir(), 'copper-newcomer-'));
  await installation.settle();
  installation.begin();
  await installation.ready(FIRST_START_MS);
});
test.afterAll(async () => {
  await installation.remove();
  rmSync(profiles, { recursive: true, force: true });
});

/** What only a script or a program says. */
const RAW =
  /Uncaught|\b\w*(?:Type|Reference|Range|Syntax)Error\b|\bundefined\b|\[object \w+\]|\bNaN\b|measurement failed/;

/** Notes everything that goes wrong on the pages of a context. */
function watched(context: BrowserContext): string[] {
  const wrong: string[] = [];
  context.on('weberror', (error) => wrong.push(`page: ${error.error().message}`));
  context.on('console', (message) => {
    const [type, text] = [message.type(), message.text()];
    if (type === 'error' || /\.css was preloaded .* but not used/.test(text)) wrong.push(`console: ${text}`);
  });
  context.on('response', (response) => {
    if (response.status() >= 400) wrong.push(`${response.status()} ${response.url()}`);
  });
  context.on('requestfailed', (request) => {
    // A page that is left, and a player that seeks, stop what they were reading.
    if (request.failure()?.errorText !== 'net::ERR_ABORTED')
      wrong.push(`${request.failure()?.errorText} ${request.url()}`);
  });
  return wrong;
}

async function fresh(size = { width: 1280, height: 800 }): Promise<{ context: BrowserContext; wrong: string[] }> {
  const context = await chromium.launchPersistentContext(mkdtempSync(path.join(profiles, 'profile-')), {
    ...{ baseURL: installation.url, viewport: size, executablePath: '/usr/bin/chromium' },
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking'],
  });
  context.setDefaultTimeout(90_000);
  return { context, wrong: watched(context) };
}

/** A step of the walk, after which the page has no words of a script on it. */
async function step(page: Page, name: string, work: () => Promise<void>): Promise<void> {
  await test.step(name, async () => {
    await work();
    expect(RAW.exec(await page.locator('body').innerText())?.[0], name).toBeUndefined();
  });
}

/** From the sign-in page to a demo piece that is checked, played and changed. */
async function firstVisit(page: Page): Promise<Desk> {
  const desk = new Desk(page);
  await step(page, 'sign in and open a demo piece', async () => {
    await desk.signIn();
    await desk.openDemoTrack('Undertow');
  });
  await step(page, 'play', async () => {
    await page.getByRole('button', { name: 'Loudest passage', exact: true }).click();
    await page.keyboard.press('Space');
    await expect(page.getByRole('button', { name: 'Pause', exact: true })).toBeVisible();
    const before = await desk.position();
    await expect.poll(() => desk.position()).toBeGreaterThan(before);
    await page.keyboard.press('Space');
    await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  });
  await step(page, 'change something, and see what it comes to', async () => {
    await desk.addStage('Trim', 1);
    await desk.setValue('Gain', '-3');
    await desk.checked();
    await desk.saved();
  });
  return desk;
}

test('a newcomer gets from the demo to a delivery and a link, and finds it again after a restart', async () => {
  test.setTimeout(600_000);
  const { context, wrong } = await fresh();
  const page = context.pages()[0];
  const desk = await firstVisit(page);

  await step(page, 'Meet', async () => {
    await page.getByRole('article', { name: 'Streaming' }).getByRole('button', { name: /^Meet/ }).click();
    const sheet = page.getByRole('dialog', { name: 'Meet Streaming' });
    await sheet.getByRole('button', { name: 'Meet it' }).click({ timeout: 120_000 });
    await expect(sheet).toBeHidden({ timeout: 120_000 });
    await desk.checked();
  });
  await step(page, 'first draft', async () => {
    await page.getByRole('button', { name: 'Lanes', exact: true }).click();
    await page.getByRole('menuitem', { name: /^First draft…/ }).click();
    const sheet = page.getByRole('dialog', { name: 'First draft' });
    await sheet.getByRole('button', { name: 'Use this draft' }).click({ timeout: 120_000 });
    await expect(sheet).toBeHidden();
    await desk.checked();
    await desk.saved();
  });
  await step(page, 'deliver', async () => {
    await page.getByRole('button', { name: 'Deliver…' }).click();
    await page.getByRole('button', { name: 'Start delivery' }).click();
    await expect(page.getByRole('region', { name: 'Receipt' })).toBeVisible({ timeout: 150_000 });
    const [receipt] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'Save receipt' }).click(),
    ]);
    expect(receipt.suggestedFilename()).toMatch(/\.receipt\.pdf$/);
  });
  let address = '';
  await step(page, 'a listening link', async () => {
    await desk.openDemoRelease();
    await page.getByRole('button', { name: 'Listening page…' }).click();
    const dialog = page.getByRole('dialog', { name: /^Listening page/ });
    await dialog.getByLabel('For whom').fill('Dana');
    await dialog.getByRole('button', { name: 'Make the link' }).click();
    const made = dialog.getByRole('article', { name: 'Link for Dana' });
    await expect(made).toBeVisible();
    await expect(made.getByRole('progressbar')).toHaveCount(0, { timeout: 240_000 });
    address = (await made.getByRole('link', { name: 'Open' }).getAttribute('href'))!;
  });
  const phone = await fresh({ width: 390, height: 844 });
  const client = phone.context.pages()[0];
  await step(client, 'the link on a phone, kept after one visit', async () => {
    await client.goto(address);
    await client.getByRole('button', { name: 'Play', exact: true }).click();
    await expect(client.getByText(/Kept on this device/)).toBeVisible();
    await phone.context.setOffline(true);
    await client.reload();
    await expect(client.getByRole('heading', { name: 'Slow Orbits' })).toBeVisible();
    await client.getByRole('button', { name: 'Play', exact: true }).click();
    await expect(client.getByRole('button', { name: 'Pause' })).toBeVisible();
  });
  await phone.context.setOffline(false);
  await phone.context.close();

  await installation.end('SIGTERM');
  installation.begin();
  await installation.ready(120_000);
  await step(page, 'the second visit, after a restart', async () => {
    await desk.openDemoTrack('Undertow');
    await page.reload();
    await desk.checked();
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    await expect(page.getByRole('button', { name: 'Pause', exact: true })).toBeVisible();
  });
  await step(page, 'sign out', async () => {
    // What it asks for has come: an answer that is late would be one to nobody.
    await page.goto('/settings', { waitUntil: 'networkidle' });
    await page.getByRole('button', { name: 'Sign out', exact: true }).click();
    await expect(page).toHaveURL(/sign-in/);
  });
  await context.close();
  // Without a connection requests fail: that is what was asked for.
  expect([...wrong, ...phone.wrong.filter((each) => !each.includes('ERR_INTERNET_DISCONNECTED'))]).toEqual([]);
});

test('on a slow machine, and where the browser keeps nothing, it works as well, and edits arrive', async () => {
  test.setTimeout(600_000);
  const loops = Array.from({ length: 2 }, () => spawn(process.execPath, ['-e', 'for (;;);'], { stdio: 'ignore' }));
  const { context, wrong } = await fresh();
  try {
    await context.addInitScript(() => {
      // As when it is full, or forbidden.
      Storage.prototype.setItem = () => {
        throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
      };
    });
    const page = context.pages()[0];
    const desk = await firstVisit(page);
    await page.reload();
    await desk.checked();
    await expect(desk.stage('Trim').first()).toContainText('−3.0 dB');
  } finally {
    for (const loop of loops) loop.kill('SIGKILL');
    await context.close();
  }
  expect(wrong).toEqual([]);
});

test('an edit that was not sent yet is there after the page was killed', async () => {
  test.setTimeout(300_000);
  const { context } = await fresh();
  const page = context.pages()[0];
  const desk = new Desk(page);
  await desk.signIn();
  await desk.openDemoTrack('Perihelion');
  await desk.addStage('Trim', 1);
  await desk.saved();
  // The server is away from now on, for changes of the lane.
  await page.route('**/lane', (route) => route.abort());
  await desk.setValue('Gain', '-7.5');
  await expect(desk.stage('Trim').first()).toContainText('−7.5 dB');
  await expect(page.getByText('Saved', { exact: true })).toHaveCount(0);
  // Closed without a chance to say anything.
  await page.goto('chrome://crash').catch(() => {});
  const other = await context.newPage();
  await other.goto(installation.url);
  const second = new Desk(other);
  await second.openDemoTrack('Perihelion');
  await expect(second.stage('Trim').first()).toContainText('−7.5 dB');
  await second.saved();
  await other.reload();
  await second.checked();
  await expect(second.stage('Trim').first()).toContainText('−7.5 dB');
  await context.close();
});

test('a worker that once answered for the application is gone after a visit, with what it kept', async () => {
  const { context, wrong } = await fresh();
  const page = context.pages()[0];
  await page.goto('/sign-in');
  await page.evaluate(async () => {
    await (await caches.open('shell')).put('/_next/static/stale.js', new Response('stale'));
    await navigator.serviceWorker.register('/service-worker.js');
  });
  await page.reload();
  await expect
    .poll(() =>
      page.evaluate(async () => [
        (await navigator.serviceWorker.getRegistrations()).length,
        (await caches.keys()).includes('shell'),
      ]),
    )
    .toEqual([0, false]);
  await context.close();
  expect(wrong).toEqual([]);
});

test('Firefox: a newcomer opens the demo, hears it, changes it, and finds it again', async () => {
  test.setTimeout(420_000);
  const firefox = await puppeteer.launch({
    browser: 'firefox',
    executablePath: '/usr/bin/firefox-esr',
    extraPrefsFirefox: { 'media.cubeb.force_mock_context': true },
  });
  try {
    const page = await firefox.newPage();
    page.setDefaultTimeout(150_000);
    await page.setViewport({ width: 1280, height: 800 });
    const wrong: string[] = [];
    page.on('pageerror', (error) => wrong.push(String(error)));
    page.on('console', (message) => {
      if (message.type() === 'error') wrong.push(message.text());
    });
    const checked = () =>
      expect
        .poll(() => page.$eval('[data-testid="measuring-state"]', ({ textContent }) => textContent).catch(() => ''), {
          timeout: 150_000,
        })
        .toBe('whole track checked');
    const press = (role: string, name: string) => page.locator(`::-p-aria([name="${name}"][role="${role}"])`).click();
    await page.goto(`${installation.url}/sign-in`);
    await press('button', 'Open the demo');
    await page.locator('::-p-text(Slow Orbits)').click();
    await page.locator('article[aria-label="Long Dusk"] ::-p-aria([name="Open"][role="link"])').click();
    await checked();
    await press('button', 'Play');
    // By attribute: asked for by role, Firefox takes seconds to find it while the page plays.
    await page.waitForSelector('button[aria-label="Pause"]');
    const position = () => page.$eval('[data-testid="position"]', ({ textContent }) => textContent);
    await expect.poll(position).not.toBe('0:00.0');
    await page.keyboard.press(' ');
    await page.waitForSelector('button[aria-label="Play"]');
    await page.reload();
    await checked();
    expect(RAW.exec(await page.$eval('body', ({ innerText }) => innerText))?.[0]).toBeUndefined();
    expect(wrong).toEqual([]);
  } finally {
    await firefox.close();
  }
});
