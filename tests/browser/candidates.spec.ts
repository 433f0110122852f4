import type { TrackDetails } from '@/contracts/track';
import { music } from '../support/music';
import { both, sine } from '../support/signals';
import { violations } from './axe';
import { expect, test } from './test';

test.beforeEach(({ desk }) => desk.listen());

test('candidates are added, ordered, heard and removed by keyboard, and stay with the track', async ({
  page,
  desk,
  client,
}) => {
  await desk.openNewTrack('Compared.wav', music(6, 44100), 44100);
  await desk.addStage('Trim', 1);
  await desk.setValue('Gain', '-6');
  await desk.checked();
  const chips = page.getByRole('group', { name: 'What is heard' }).getByRole('button');
  const open = page.getByRole('button', { name: 'Candidates' });
  await open.focus();
  await page.keyboard.press('Enter');
  const panel = page.getByRole('dialog', { name: 'Candidates' });
  await panel.getByRole('button', { name: 'Add Master without “Trim”' }).press('Enter');
  await expect(panel.getByRole('listitem')).toHaveCount(3);
  await panel.getByRole('button', { name: 'Move Master without “Trim” up' }).press('Enter');
  await page.keyboard.press('Escape');
  await expect(panel).toBeHidden();
  await expect(open).toBeFocused();
  await expect(chips).toHaveText(['1Mix', '2Without trim', '3Master']);
  const track = page.url().split('/').at(-1);
  await expect
    .poll(async () => (await client.ask<TrackDetails>('GET', `/api/tracks/${track}`)).body.candidates)
    .toMatchObject([{ kind: 'mix' }, { kind: 'without' }, { kind: 'edited' }]);
  // Trim is all there is: without it the master is the mix.
  await expect(chips.nth(1)).toHaveAttribute('aria-description', 'as it is');
  await expect(chips.nth(2)).toHaveAttribute('aria-description', 'raised 6.0 dB');
  await page.keyboard.press('Space');
  await page.keyboard.press('2');
  await expect(page.getByTestId('metered')).toHaveText('Without trim');
  await page.keyboard.press('1');
  await page.keyboard.press('c');
  await expect(page.getByTestId('metered')).toHaveText('Mix; heard: the change');
  await desk.saved();
  await page.reload();
  await desk.checked();
  await expect(chips).toHaveText(['1Mix', '2Without trim', '3Master']);
  await desk.stage('Trim').click();
  await page.keyboard.press('b');
  await expect(chips).toHaveText(['1Mix', '2Master']);
});

test('a mix at another rate, a finished file and the master of another track play at one loudness', async ({
  page,
  desk,
}) => {
  const tone = (name: string, level: number, sampleRate: number) => ({
    ...{ name, sampleRate },
    signal: both(sine(997, level, 8, sampleRate)),
  });
  const { tracks } = await desk.newRelease('Pair', [tone('Here.wav', -26, 48000), tone('There.wav', -14, 44100)]);
  await desk.openTrack(tracks[0]);
  await page.getByRole('button', { name: 'Deliver…' }).click();
  await page.getByRole('radio', { name: /Disc/ }).check();
  await page.getByRole('combobox', { name: 'Dither' }).click();
  await page.getByRole('option', { name: 'Noise-shaped' }).click();
  await page.getByRole('button', { name: 'Compare dithers' }).click();
  await expect(page.getByRole('table', { name: 'Noise of each dither' }).getByRole('row')).toHaveCount(5);
  await page
    .getByRole('group', { name: 'Dither that is heard' })
    .getByRole('button', { name: 'TPDF', exact: true })
    .click();
  // The tone of −26 dBFS is raised nearly to full scale.
  await expect.poll(() => desk.heard(997)).toBeGreaterThan(-20);
  expect(await violations(page, 'comparing dithers', '[role="dialog"]')).toEqual([]);
  await page.getByRole('button', { name: 'Start delivery' }).click();
  await expect(page.getByText('The finished file meets its destination.')).toBeVisible({ timeout: 150_000 });
  await expect(page.getByText('noise-shaped to 16 bits')).toBeVisible();
  await page.goBack();
  await desk.checked();
  await page.getByRole('button', { name: 'Candidates' }).click();
  const panel = page.getByRole('dialog', { name: 'Candidates' });
  await panel.getByRole('button', { name: /^Add Master of 2 · There/ }).click();
  await panel.getByRole('button', { name: /^Add Delivered file: Disc/ }).click();
  await page.keyboard.press('Escape');
  const chips = page.getByRole('group', { name: 'What is heard' }).getByRole('button');
  await expect(chips.nth(2)).toHaveAttribute('aria-description', 'as it is', { timeout: 30_000 });
  await expect(chips.nth(3)).toHaveAttribute('aria-description', 'raised 12.0 dB', { timeout: 30_000 });
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const levels: number[] = [];
  for (const key of ['1', '2', '3', '4']) {
    await page.keyboard.press('Home');
    await page.keyboard.press(key);
    await desk.filled();
    levels.push(await desk.heard(997));
  }
  expect(Math.max(...levels) - Math.min(...levels)).toBeLessThan(0.3);
  // As a destination plays them: the loud one is turned down, the quiet one up as far as its peaks have room.
  await page.getByRole('combobox', { name: 'Level matching' }).click();
  await page.getByRole('option', { name: /^As Broadcast plays it/ }).click();
  await expect(chips.nth(2)).toHaveAttribute('aria-description', 'lowered 9.0 dB');
  await expect(chips.nth(0)).toHaveAttribute('aria-description', 'raised 3.0 dB');
});

test('whatever is not normal stereo is said across the page, by keyboard and back', async ({ page, desk }) => {
  const low = both(sine(110, -20, 30, 44100));
  await desk.openNewTrack('Elsewhere.wav', low, 44100);
  await page.keyboard.press('Space');
  await expect.poll(() => desk.heard(110)).toBeGreaterThan(-40);
  await desk.filled();
  const here = await desk.heard(110);
  await page.getByRole('button', { name: 'Listen to: Stereo' }).press('Enter');
  const choices = page.getByRole('dialog', { name: 'Listen to' });
  await choices.getByRole('button', { name: 'Phone', exact: true }).press('Enter');
  // Behind the open panel it is not for screen readers, whose panel says the same.
  const said = page.getByText(/^Not normal stereo/);
  await expect(said).toContainText('Phone');
  // A phone has nothing left of 110 Hz.
  await expect.poll(() => desk.heard(110)).toBeLessThan(here - 30);
  await choices.getByRole('button', { name: 'Here', exact: true }).press('Enter');
  await choices.getByRole('button', { name: 'Side', exact: true }).press('Enter');
  await expect(said).toContainText('Side');
  await expect.poll(() => desk.heard(110)).toBeLessThan(here - 60);
  await page.keyboard.press('t');
  await expect(said).toContainText('Side, 1.5–6 kHz');
  await page.keyboard.press('Escape');
  await expect(choices).toBeHidden();
  expect(await violations(page, 'not normal stereo', 'main')).toEqual([]);
  await page.keyboard.press('n');
  await expect(said).toHaveCount(0);
  await expect.poll(() => desk.heard(110)).toBeGreaterThan(here - 1);
});

test('notes are written where one listens, gone to by key, filtered, and taken back', async ({ page, desk }) => {
  await desk.openNewTrack('Noted.wav', music(20, 44100), 44100);
  const panel = page.getByRole('dialog', { name: 'Notes' });
  const field = panel.getByRole('textbox', { name: 'New note' });
  const here = async (seconds: number, text: string) => {
    await page.keyboard.press('Home');
    for (let at = 0; at < seconds; at += 5) await page.keyboard.press('ArrowRight');
    await expect.poll(() => desk.position()).toBe(seconds);
    await page.keyboard.press('i');
    await field.fill(text);
    await page.keyboard.press('Enter');
    await expect(panel.getByText(text)).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(panel).toBeHidden();
  };
  await here(10, 'voice too sharp');
  await here(5, 'a click');
  await page.keyboard.press('Home');
  await expect.poll(() => desk.position()).toBe(0);
  for (const seconds of [5, 10]) {
    await page.keyboard.press(']');
    await expect.poll(() => desk.position()).toBe(seconds);
  }
  await page.keyboard.press('[');
  await expect.poll(() => desk.position()).toBe(5);
  await page.reload();
  await desk.checked();
  await page.keyboard.press('i');
  const notes = panel.getByRole('list', { name: 'Notes' }).getByRole('listitem');
  await expect(notes).toHaveCount(2);
  await panel.getByRole('combobox', { name: 'Kind of “a click”' }).click();
  await page.getByRole('option', { name: 'Done' }).click();
  await panel.getByRole('button', { name: 'Done 1' }).click();
  await expect(notes).toHaveCount(1);
  expect(await violations(page, 'notes', '[role="dialog"]')).toEqual([]);
  await panel.getByRole('button', { name: 'Delete “a click”' }).click();
  await expect(notes).toHaveCount(0);
  await page.keyboard.press('Escape');
  await expect(panel).toBeHidden();
  await expect(page.getByText('The note is deleted')).toBeVisible();
  await page.getByRole('button', { name: 'Undo', exact: true }).last().click();
  await page.keyboard.press('i');
  await expect(notes).toHaveCount(2);
});

test('two versions stand side by side, told apart in sentences, and either can be edited', async ({ page, desk }) => {
  await desk.openNewTrack('Beside.wav', music(6, 44100), 44100);
  await desk.addStage('Trim', 1);
  await desk.setValue('Gain', '-3');
  await desk.saved();
  const version = page.getByRole('combobox', { name: 'Version', exact: true });
  const choose = async (option: RegExp) => {
    await version.click();
    await page.getByRole('option', { name: option }).click();
  };
  await choose(/^Save as a new version/);
  await page.getByRole('textbox', { name: 'Name' }).fill('Louder');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(version).toHaveText('Version: Louder');
  await desk.setValue('Gain', '-1');
  await desk.checked();
  await desk.saved();
  await choose(/^Two versions side by side/);
  const beside = page.getByRole('dialog');
  await expect(beside.getByRole('list', { name: 'What tells B from A' })).toContainText('B is 2.0 LU quieter.');
  await expect(beside.getByRole('table', { name: 'Verdicts' }).getByRole('row')).toHaveCount(4);
  expect(await violations(page, 'side by side', '[role="dialog"]')).toEqual([]);
  await beside.getByRole('button', { name: 'Edit B' }).click();
  await expect(version).toHaveText('Version: First version');
});
