import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { ffmpeg } from '../support/ffmpeg';
import { music } from '../support/music';
import { both, sine, type Stereo } from '../support/signals';
import { wave } from '../support/wave';
import { violations } from './axe';
import { expect, test } from './test';

const RATE = 44100;
test.beforeEach(({ desk }) => desk.listen());

/** A signal as an MP3, changed by a filter of ffmpeg's. */
function mp3(signal: Stereo, filter = 'anull'): Buffer {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-listening-'));
  writeFileSync(path.join(folder, 'in.wav'), wave(signal, RATE));
  ffmpeg(['-i', path.join(folder, 'in.wav'), '-af', filter, '-b:a', '256k', path.join(folder, 'out.mp3')]);
  const bytes = readFileSync(path.join(folder, 'out.mp3'));
  rmSync(folder, { recursive: true });
  return bytes;
}

test('a reference is put on the shelf, heard, compared, and brings the equalizer closer; deleted it comes back', async ({
  page,
  desk,
}) => {
  const piece = music(8, RATE);
  await desk.open('/');
  await page.getByRole('link', { name: 'References' }).click();
  const bright = { name: 'Bright_record.mp3', mimeType: 'audio/mpeg', buffer: mp3(piece, 'treble=g=8:f=6000') };
  await page.getByLabel('References to upload').setInputFiles(bright);
  const shelf = page.getByRole('list', { name: 'References' }).getByRole('listitem');
  await expect(shelf).toContainText('LUFS');
  await expect(shelf).toContainText('Bright record');
  expect(await violations(page, 'references')).toEqual([]);
  await shelf.getByRole('button', { name: 'Delete Bright record' }).click();
  await expect(shelf).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(shelf).toHaveCount(1);

  await desk.openNewTrack('Dull.wav', piece, RATE);
  await page.getByRole('button', { name: 'Candidates' }).click();
  const panel = page.getByRole('dialog', { name: 'Candidates' });
  await panel.getByRole('button', { name: 'Add Reference: Bright record' }).click();
  await panel.getByRole('combobox', { name: 'Place of Reference: Bright record' }).click();
  await page.getByRole('option', { name: 'with both loudest passages together' }).click();
  await panel.getByRole('button', { name: 'Loop in Reference: Bright record' }).click();
  await panel.getByRole('spinbutton', { name: 'End of the loop of Reference: Bright record, seconds' }).fill('5');
  await page.keyboard.press('Enter');
  expect(await violations(page, 'candidates with a reference', '[role="dialog"]')).toEqual([]);
  await panel.getByRole('button', { name: 'Master and references…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Master and references' });
  const closer = dialog.getByRole('region', { name: 'Closer to the reference' });
  await expect(closer).toContainText(/\+\d\.\d dB at 9500 Hz/);
  await expect(dialog.getByRole('table', { name: 'Master and references' }).getByRole('row')).toHaveCount(3);
  await expect(dialog.getByRole('table', { name: 'Width and correlation' }).getByRole('row')).toHaveCount(6);
  expect(await violations(page, 'master and references', '[role="dialog"]')).toEqual([]);
  await closer.getByRole('button', { name: 'Add this equalizer' }).click();
  await expect(dialog).toBeHidden();
  await expect(desk.stage('Closer')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(desk.stage('Closer')).toHaveCount(0);

  // It is heard at its place, and still there after the page was opened again.
  const chips = page.getByRole('group', { name: 'What is heard' }).getByRole('button');
  await page.keyboard.press('Space');
  await page.keyboard.press('3');
  await expect(page.getByTestId('metered')).toHaveText('Bright record');
  await desk.saved();
  await page.reload();
  await desk.checked();
  await expect(chips).toHaveText(['1Mix', '2Master', '3Bright record']);
});

test('a blind test by keyboard: nothing tells the letters apart but what is heard, and the result says what chance does', async ({
  page,
  desk,
  client,
}) => {
  const [ours, theirs] = [997, 3000];
  const sent = await client.ask('POST', '/api/references?name=Other.mp3', mp3(both(sine(theirs, -20, 40, RATE))));
  expect(sent.status).toBe(201);
  const answers: string[] = [];
  page.on('response', (response) => {
    if (response.url().includes('/blind-tests') && response.headers()['content-type']?.includes('json'))
      void response.text().then((text) => answers.push(text));
  });
  // A reference that is still measured when the page is opened can be added as soon as it is ready.
  await page.route(
    '**/api/tracks/*',
    async (route) => {
      const response = await route.fetch();
      const details = (await response.json()) as { references: object[] };
      const references = details.references.map((each) => ({ ...each, status: 'measuring', report: null }));
      await route.fulfill({ response, json: { ...details, references } });
    },
    { times: 1 },
  );
  await desk.openNewTrack('Ours.wav', both(sine(ours, -26, 40, RATE)), RATE);
  await page.getByRole('button', { name: 'Candidates' }).click();
  const panel = page.getByRole('dialog', { name: 'Candidates' });
  await panel.getByRole('button', { name: 'Add Reference: Other' }).click();
  await expect(panel.getByRole('listitem').nth(2)).not.toContainText('ready');
  await panel.getByRole('button', { name: 'Remove Master of the open version' }).click();
  await page.keyboard.press('Escape');
  await expect(panel).toBeHidden();
  await page.keyboard.press('j');
  const dialog = page.getByRole('dialog', { name: 'Blind test' });
  for (const name of [/^Mix 1/, /^Reference: Other/]) await dialog.getByRole('checkbox', { name }).check();
  await dialog.getByRole('spinbutton', { name: 'Trials' }).fill('5');
  await expect(dialog.getByText('5 of 5 have to be right to rule out luck')).toBeVisible();
  expect(await violations(page, 'a new blind test', '[role="dialog"]')).toEqual([]);
  await dialog.getByRole('button', { name: 'Begin' }).press('Enter');
  await expect(page.getByRole('heading', { name: 'Trial 1 of 5' })).toBeVisible();
  // Programme, ribbon and meters are gone with everything else.
  await expect(page.locator('canvas')).toHaveCount(0);
  expect(await violations(page, 'a blind test', 'main')).toEqual([]);
  // A letter that was chosen and did not sound was not heard.
  await page.keyboard.press('x');
  await expect(page.getByRole('button', { name: 'X', exact: false, pressed: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'X is A (1)' })).toBeDisabled();
  await page.keyboard.press('a');
  await page.keyboard.press('Space');
  for (let trial = 1; trial <= 5; trial++) {
    await expect(page.getByRole('heading', { name: `Trial ${trial} of 5` })).toBeVisible();
    await expect(page.getByRole('button', { name: 'X is A (1)' })).toBeDisabled();
    await page.keyboard.press('x');
    await expect(page.getByRole('button', { name: 'X is A (1)' })).toBeEnabled();
    await desk.filled();
    const [a, b] = [await desk.heard(ours), await desk.heard(theirs)];
    expect(Math.abs(a - b)).toBeGreaterThan(30);
    expect(answers.every((text) => !/"assignment":\[/.test(text))).toBe(true);
    await page.keyboard.press(a > b ? '1' : '2');
  }
  await expect(page.getByText('5 of 5 right.')).toBeVisible();
  await expect(page.getByText('By guessing, as many or more come in 3.1 % of such tests.')).toBeVisible();
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as text' }).click();
  const text = readFileSync(await (await saving).path(), 'utf8');
  expect(text).toContain('blind test of “Mix 1, untouched” and “Reference: Other”');
  expect(text).toMatch(/Trial 5: X was “(Mix 1, untouched|Reference: Other)”; answered “\1”/);
  // Back in the workspace the candidates play again, and the test is kept with the track.
  await page.getByRole('button', { name: 'Back to the track' }).click();
  await expect(dialog.getByRole('region', { name: 'Tests of this track' })).toContainText('5 of 5 right.');
  await page.keyboard.press('Escape');
  await page.keyboard.press('1');
  // Silence on both is no answer.
  await expect.poll(async () => (await desk.heard(ours)) - (await desk.heard(theirs))).toBeGreaterThan(30);
});

test('instruments read at both ends while another candidate is heard and the stage is off, and are remembered', async ({
  page,
  desk,
}) => {
  // A tone of −18 dBFS on both sides has −18 LUFS.
  await desk.openNewTrack('Steady.wav', both(sine(997, -18, 30, RATE)), RATE);
  await desk.addStage('Trim', 1);
  await desk.setValue('Gain', '-6');
  await desk.checked();
  await page.keyboard.press('h');
  const instruments = page.getByRole('region', { name: 'Instruments' });
  const loudness = instruments.getByRole('region', { name: 'Loudness, LUFS' });
  const momentary = (lufs: string, at: 'first' | 'last') =>
    expect(loudness.locator('dl[aria-label="Now"]')[at]().getByRole('definition').first()).toHaveText(lufs);
  await page.keyboard.press('Space');
  await momentary('−18.0', 'first');
  await momentary('−24.0', 'last');
  await page.keyboard.press('1');
  await desk.played(1);
  await momentary('−24.0', 'last');
  await page.keyboard.press('o');
  await momentary('−18.0', 'last');
  await instruments.getByRole('button', { name: 'PPM', exact: true }).click();
  await instruments.getByRole('combobox', { name: 'Zero of the VU' }).click();
  await page.getByRole('option', { name: '0 VU at −14 dBFS' }).click();
  expect(await violations(page, 'instruments', '[aria-label="Instruments"]')).toEqual([]);
  await page.reload();
  await desk.checked();
  await page.keyboard.press('h');
  await expect(instruments.getByRole('region', { name: 'PPM' })).toHaveCount(0);
  await expect(instruments.getByRole('combobox', { name: 'Zero of the VU' })).toHaveText('0 VU at −14 dBFS');
  await page.keyboard.press('h');
  await expect(page.getByRole('region', { name: 'Trim stage' })).toBeVisible();
});

test('between the samples of a tone that hides its peaks one sees how far it is over', async ({ page, desk }) => {
  // A quarter of the rate at 45°: no sample is over −0.7 dBFS, and the wave between them reaches +2.3.
  const side = Float64Array.from({ length: 4 * RATE }, (_, n) => 0.01 * Math.sin(n / 9));
  for (const at of [RATE, 3 * RATE])
    for (let n = -60; n <= 60; n++)
      side[at + n] += 1.3 * Math.cos((Math.PI * n) / 122) ** 2 * Math.sin((Math.PI / 2) * n + Math.PI / 4);
  await desk.openNewTrack('Hidden.wav', both(side), RATE);
  await page.keyboard.press('u');
  const dialog = page.getByRole('dialog', { name: 'Between the samples' });
  const where = dialog.getByRole('status');
  await expect(where).toContainText(/Over 1 of 2, left, at 0:(00\.99|01\.00)\d/);
  await expect(where).toContainText(/\+?2\.\d\d dBTP between samples of −0\.\d\d dBFS/);
  await expect(dialog.getByRole('img')).toHaveCount(2);
  await dialog.getByRole('button', { name: 'Next peak' }).press('Enter');
  await expect(where).toContainText('Over 2 of 2');
  await dialog.getByRole('combobox', { name: 'Of' }).click();
  await page.getByRole('option', { name: /^Mix 1/ }).click();
  await expect(where).toContainText('Over 1 of 2');
  expect(await violations(page, 'between the samples', '[role="dialog"]')).toEqual([]);
  await dialog.getByRole('button', { name: 'Next peak' }).click();
  await dialog.getByRole('button', { name: 'Go there in the track' }).click();
  await dialog.getByRole('button', { name: 'Close', exact: true }).click();
  await expect.poll(() => desk.position()).toBeCloseTo(3, 0);
});
