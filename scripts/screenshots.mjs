// Takes the pictures of docs/screenshots from a running application with its demo. COPPER_URL: its address.
import { mkdirSync } from 'node:fs';
import { chromium } from '@playwright/test';

const baseURL = process.env.COPPER_URL ?? 'http://127.0.0.1:3400';
const folder = 'docs/screenshots';
mkdirSync(folder, { recursive: true });
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run'],
});
const page = await (await browser.newContext({ baseURL, viewport: { width: 1280, height: 800 } })).newPage();
const snap = async (name) => {
  await page.mouse.move(700, 4);
  await page.waitForTimeout(700);
  await page.screenshot({ path: `${folder}/${name}.png` });
};

await page.goto('/sign-in');
await page.getByRole('button', { name: 'Open the demo' }).waitFor();
await page.getByRole('button', { name: 'Open the demo' }).click();
const release = page.getByRole('link', { name: /Slow Orbits/ });
await release.waitFor();
await release.click();
const piece = page.getByRole('article', { name: 'Perihelion' });
await piece.waitFor();
const sequence = `${page.url()}/sequence`;
// Masters are measured one after another.
await page
  .getByText(/^Checking the whole track/)
  .last()
  .waitFor({ state: 'hidden', timeout: 120_000 });
await page.getByRole('region', { name: 'Master of Zodiacal Light' }).getByRole('img').waitFor({ timeout: 120_000 });
await snap('release');
// What a client hears on a phone; the link goes again.
await page.getByRole('button', { name: 'Listening page…' }).click();
const links = page.getByRole('dialog', { name: /^Listening page/ });
await links.getByLabel('For whom').fill('Dana, Ashgrove Dome');
await links.getByRole('checkbox', { name: 'Allow handles' }).check();
await links.getByRole('button', { name: 'Make the link' }).click();
const link = links.getByRole('article');
await link.getByRole('progressbar').waitFor();
await link.getByRole('progressbar').waitFor({ state: 'hidden', timeout: 300_000 });
const phone = await (
  await browser.newContext({ baseURL, viewport: { width: 390, height: 844 }, deviceScaleFactor: 2, hasTouch: true })
).newPage();
await phone.goto(await link.getByRole('link', { name: 'Open' }).getAttribute('href'));
await phone.getByRole('button', { name: 'Next track' }).tap();
await phone.getByRole('slider', { name: 'Place in Debris Field' }).fill('20');
await phone.getByRole('button', { name: /^Write a note/ }).tap();
await phone.getByLabel('What do you hear?').fill('Can the bells step back a little here?');
await phone.getByRole('button', { name: 'Send the note' }).tap();
await phone.getByText('Can the bells').first().waitFor();
await phone.getByRole('button', { name: 'Approve Perihelion' }).tap();
await phone.getByText('Approved').waitFor();
await phone.getByRole('slider', { name: 'Place in Debris Field' }).fill('28');
await phone.evaluate(() => window.scrollTo(0, 0));
const beside = [await phone.screenshot()];
await phone.getByRole('link', { name: /^Change the sound of/ }).tap();
await phone.getByRole('slider', { name: 'Place in the track' }).fill('28');
await phone.getByRole('slider', { name: 'Weight' }).fill('64');
await phone.getByRole('slider', { name: 'Presence' }).fill('42');
beside.push(await phone.screenshot());
const shown = beside.map(
  (png) => `<img src="data:image/png;base64,${png.toString('base64')}" width="390" height="844">`,
);
await phone.setViewportSize({ width: 796, height: 844 });
await phone.setContent(`<body style="margin:0;display:flex;gap:16px;background:#888">${shown.join('')}</body>`);
await phone.screenshot({ path: `${folder}/listening-page.png` });
await page.goto('/');
await page.getByRole('region', { name: 'From listeners' }).waitFor();
await snap('releases');
await release.click();
await piece.waitFor();
await piece.getByRole('link', { name: 'Open' }).click();
await page.getByText('whole track checked').waitFor({ timeout: 60_000 });
const lane = page.getByRole('region', { name: 'Lane' });
const open = (kind) => lane.getByRole('button', { name: new RegExp(`^${kind},`) }).click();
await page.getByRole('button', { name: 'Loudest passage', exact: true }).click();
await page.getByRole('button', { name: 'Play', exact: true }).click();
await open('Equalizer');
await page.getByRole('slider', { name: /^Band 4/ }).focus();
await page.waitForTimeout(3000);
await snap('workspace-equalizer');
await open('Limiter');
await page.waitForTimeout(3500);
await snap('workspace-limiter');
await page.getByRole('button', { name: 'Night theme' }).click();
await open('Trim');
await page.waitForTimeout(1500);
await page.setViewportSize({ width: 1920, height: 1080 });
await snap('workspace-wide-night');
await page.setViewportSize({ width: 1280, height: 800 });
await page.getByRole('button', { name: 'Pause', exact: true }).click();
await page.getByRole('button', { name: 'Daylight theme' }).click();
const perihelion = page.url();

// What can be compared, and where it can be listened to; nothing of it stays.
const keep = async (kind, text) => {
  await page.keyboard.press('i');
  const notes = page.getByRole('dialog', { name: 'Notes' });
  await notes.getByRole('combobox', { name: 'Kind of the new note' }).click();
  await page.getByRole('option', { name: kind }).click();
  await notes.getByRole('textbox', { name: 'New note' }).fill(text);
  await page.keyboard.press('Enter');
  await notes.getByText(text).first().waitFor();
  await page.keyboard.press('Escape');
};
await keep('Fault', 'it rings at 3.4 kHz');
await page.keyboard.press('Home');
await keep('Question', 'fade in, or as it is?');
await page.getByRole('button', { name: 'Candidates' }).click();
for (const name of ['Master without “Limiter”', 'Master of 2', 'Master of 4', 'Delivered file'])
  await page.getByRole('button', { name: `Add ${name}` }).click();
await page.keyboard.press('Escape');
await page.getByRole('button', { name: /^3 / }).and(page.locator('[aria-description^="raised"]')).waitFor();
await page.getByRole('button', { name: /^Listen to/ }).click();
await page.getByRole('button', { name: 'Kitchen radio' }).click();
await page.waitForTimeout(2500);
await snap('candidates');
await page.keyboard.press('Escape');
await page.keyboard.press('n');
await page.getByRole('button', { name: 'Candidates' }).click();
for (let i = 0; i < 4; i++)
  await page
    .getByRole('button', { name: /^Remove (Master without|Master of \d|Delivered)/ })
    .first()
    .click();
await page.keyboard.press('Escape');
// Another piece of the demo serves as a reference.
const fetched = await page.evaluate(async () => {
  const json = async (path) => (await fetch(path)).json();
  const { tracks } = await json(`/api/tracks/${location.pathname.split('/').pop()}`);
  const { mix } = await json(`/api/tracks/${tracks.find(({ title }) => title === 'Undertow').id}`);
  const sent = await fetch('/api/references?name=Night_Ferry.wav', {
    method: 'POST',
    body: await (await fetch(`/api/mixes/${mix.id}/audio?rate=44100`)).arrayBuffer(),
    headers: { 'Content-Type': 'application/octet-stream' },
  });
  return (await sent.json()).id;
});
await page.goto('/destinations');
await page.getByRole('heading', { name: 'Broadcast', exact: true }).waitFor();
await snap('destinations');
await page.goto('/references');
await page.getByText('LUFS').first().waitFor({ timeout: 60_000 });
await page.goto(perihelion);
await page.getByText('whole track checked').waitFor({ timeout: 60_000 });
await page.getByRole('button', { name: 'Candidates' }).click();
await page.getByRole('button', { name: 'Master and references…' }).click();
await page.getByRole('region', { name: 'Closer to the reference' }).waitFor({ timeout: 60_000 });
await snap('references');
await page.getByRole('button', { name: 'Close', exact: true }).click();
await page.getByRole('button', { name: 'Loudest passage', exact: true }).click();
await page.getByRole('button', { name: 'Play', exact: true }).click();
await page.keyboard.press('h');
await page.waitForTimeout(6000);
await snap('instruments');
await page.keyboard.press('h');
await page.keyboard.press('u');
await page
  .getByRole('status')
  .getByText(/ of \d/)
  .waitFor();
await snap('between-samples');
await page.getByRole('button', { name: 'Close', exact: true }).click();
await page.keyboard.press('j');
await page.getByRole('button', { name: 'Begin' }).click();
await page.getByRole('heading', { name: 'Trial 1 of 10' }).waitFor();
await page.keyboard.press('x');
await snap('blind-test');
await page.getByRole('button', { name: 'Leave' }).click();
await page.getByRole('button', { name: /^Delete the test/ }).click();
await page.getByRole('button', { name: 'Close', exact: true }).click();
await page.evaluate((id) => fetch(`/api/references/${id}`, { method: 'DELETE' }), fetched);
await page.getByRole('link', { name: 'Slow Orbits' }).click();
await page.getByRole('article', { name: 'Long Dusk' }).getByRole('link', { name: 'Open' }).click();
await page.getByText('whole track checked').waitFor({ timeout: 60_000 });
await page.getByRole('button', { name: 'Loudest passage', exact: true }).click();
await page.getByRole('button', { name: 'Play', exact: true }).click();
await open('Band dynamics');
await page.waitForTimeout(3500);
await snap('workspace-band-dynamics');
await page.getByRole('link', { name: 'Slow Orbits' }).click();
await page.getByRole('article', { name: 'Undertow' }).getByRole('link', { name: 'Open' }).click();
await page.getByText('whole track checked').waitFor({ timeout: 60_000 });
await page.getByRole('button', { name: 'Loudest passage', exact: true }).click();
await page.getByRole('button', { name: 'Play', exact: true }).click();
// Where it starts and ends; undone again.
await page.keyboard.press('f');
const edges = page.getByRole('dialog', { name: 'Edges' });
for (const [name, value] of [
  ['Start at', '0:01'],
  ['Fade-in', '0.5'],
  ['Fade-out', '2.5'],
]) {
  await edges.getByRole('textbox', { name, exact: true }).fill(value);
  await edges.getByRole('textbox', { name, exact: true }).press('Enter');
}
await snap('edges');
await edges.getByRole('button', { name: 'Whole mix' }).click();
await edges.getByRole('button', { name: 'Close' }).click();
// Two ways to begin; what is taken is undone.
await page.getByRole('button', { name: 'Pause', exact: true }).click();
const begin = async (item) => {
  await page.getByRole('button', { name: 'Lanes', exact: true }).click();
  await page.getByRole('menuitem', { name: item }).click();
};
await begin(/^First draft…/);
await page.getByText(/^Comes to/).waitFor({ timeout: 60_000 });
await snap('first-draft');
await page.getByRole('button', { name: 'Cancel' }).click();
await begin(/^House lanes…/);
await page.getByRole('button', { name: /^Acoustic, singer in front/ }).click();
await page.getByRole('button', { name: 'Begin from it' }).click();
await page.getByText('whole track checked').waitFor({ timeout: 60_000 });
await page.getByRole('slider', { name: 'Clarity' }).press('PageUp');
await page.getByText('whole track checked').waitFor({ timeout: 60_000 });
await snap('handles');
for (let i = 0; i < 2; i++) {
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByText('whole track checked').waitFor({ timeout: 60_000 });
}
await page.goto(perihelion);
await page.getByText('whole track checked').waitFor({ timeout: 60_000 });
// Another way to the same loudness, for the comparison; the demo keeps it.
const versions = page.getByRole('combobox', { name: 'Version' });
await versions.click();
const clipped = page.getByRole('option', { name: 'Clipped before the limiter' });
if ((await clipped.count()) > 0) await clipped.click();
else {
  await page.getByRole('option', { name: 'Save as a new version…' }).click();
  await page.getByLabel('Name').fill('Clipped before the limiter');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await page.getByRole('button', { name: 'Add a stage at position 4' }).click();
  await page.getByRole('menuitem', { name: /^Clipper/ }).click();
  const ceiling = page.getByRole('textbox', { name: 'Ceiling value' });
  await ceiling.fill('-7');
  await ceiling.press('Enter');
  await page.getByText('Saved', { exact: true }).waitFor();
}
await page.getByText('whole track checked').waitFor({ timeout: 60_000 });
await versions.click();
await page.getByRole('option', { name: 'Two versions side by side…' }).click();
await page.getByRole('list', { name: 'What tells B from A' }).waitFor();
await snap('versions-beside');
await page.getByRole('button', { name: 'Close', exact: true }).click();
await versions.click();
await page.getByRole('option', { name: 'First version' }).click();
await page.getByText('whole track checked').waitFor({ timeout: 60_000 });
await page.getByRole('region', { name: 'Deliveries of this track' }).getByRole('link').last().click();
await page.getByRole('region', { name: 'Receipt' }).waitFor();
await page.getByRole('button', { name: 'Hand the file over' }).click();
await page.getByText(/^(Accepted|Rejected)/).waitFor({ timeout: 60_000 });
await snap('delivery');
await page.goto(sequence);
await page.getByText(/album −/).waitFor({ timeout: 120_000 });
await snap('sequence');
await browser.close();
