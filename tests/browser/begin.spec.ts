import { programme } from '../support/programme';
import { expect, test } from './test';

const RATE = 44100;

test('a lane is drafted with its reasons, a step is refused, and the result meets; undo takes it back', async ({
  page,
  desk,
}) => {
  const { left, right } = programme(12, RATE, { boxyDb: 9, sibilants: true });
  await desk.openNewTrack('boxy.wav', { left: Float64Array.from(left), right: Float64Array.from(right) }, RATE);
  await page.getByRole('button', { name: 'Lanes', exact: true }).click();
  await page.getByRole('menuitem', { name: /^First draft…/ }).click();
  const sheet = page.getByRole('dialog', { name: 'First draft' });
  const steps = sheet.getByRole('table', { name: 'Steps of the draft' });
  await expect(steps.getByRole('row', { name: /Balance/ })).toContainText(/around 220 Hz \d\.\d dB more \(−/);
  await expect(steps.getByRole('row', { name: /De-essing/ })).toContainText(/sibilants a minute/);
  await expect(sheet.getByRole('list', { name: 'Not needed' })).toContainText('no compression was needed');
  await steps.getByRole('switch', { name: 'De-essing' }).click();
  await expect(steps.getByRole('row', { name: /De-essing/ })).toContainText('Refused.');
  await expect(sheet.getByRole('status')).toHaveText(/^Comes to −14\.0 LUFS at −\d\.\d dBTP: meets Streaming\.$/);
  await sheet.getByRole('button', { name: 'Use this draft' }).click();
  await desk.checked();
  await expect(desk.stage('Limiter')).toBeVisible();
  await expect(desk.stage('De-esser')).toHaveCount(0);
  const card = page.getByRole('article', { name: 'Streaming' });
  await expect(card).toContainText('meets');
  await expect(card).toContainText('−14.0 LUFS');
  // It can be changed after: what was refused is remembered.
  await page.getByRole('button', { name: 'Lanes', exact: true }).click();
  await page.getByRole('menuitem', { name: /^First draft…/ }).click();
  await expect(steps.getByRole('switch', { name: 'De-essing' })).not.toBeChecked();
  await sheet.getByRole('button', { name: 'Clean and coloured as versions' }).click();
  const beside = page.getByRole('dialog', { name: 'Two versions side by side' });
  await expect(beside.getByRole('combobox', { name: 'Version A' })).toContainText('Clean draft');
  await expect(beside.getByRole('combobox', { name: 'Version B' })).toContainText('Coloured draft');
  await expect(beside.getByRole('list', { name: 'What tells B from A' })).toContainText(/\w/);
  await beside.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('combobox', { name: 'Version', exact: true }).click();
  await page.getByRole('option', { name: /First version/ }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(desk.stage('Limiter')).toHaveCount(0);
});

test('what has to move for a destination is shown with its cost, and moved in one step', async ({ page, desk }) => {
  const { left, right } = programme(12, RATE);
  await desk.openNewTrack('plain.wav', { left: Float64Array.from(left), right: Float64Array.from(right) }, RATE);
  await desk.addStage('Limiter', 1);
  await desk.checked();
  const card = page.getByRole('article', { name: 'Streaming' });
  await expect(card).toContainText(/LU too quiet/);
  await card.getByRole('button', { name: 'Meet…' }).click();
  const sheet = page.getByRole('dialog', { name: 'Meet Streaming' });
  const ways = sheet.getByRole('table', { name: 'Ways to meet it' });
  await expect(ways.getByRole('row', { name: /Limiter, input gain/ })).toContainText(/0\.0 → \+\d+\.\d dB/);
  await sheet.getByRole('radio', { name: 'Limiter, input gain' }).check();
  // What becomes of the others is said before it is done.
  const others = sheet.getByRole('region', { name: 'The other destinations' });
  await expect(others.getByRole('listitem').filter({ hasText: 'Broadcast' })).toContainText(/\d LU too loud/);
  await sheet.getByRole('button', { name: 'Meet it' }).click();
  await expect(sheet).toHaveCount(0);
  await desk.checked();
  await expect(card).toContainText('meets');
  await expect(card).toContainText('−14.0 LUFS');
  await page.getByRole('button', { name: 'Undo' }).click();
  await desk.checked();
  await expect(card).toContainText(/LU too quiet/);
});

test('all tracks of a release are made to meet, each by one step of its own', async ({ page, desk }) => {
  const { left, right } = programme(8, RATE);
  const quieter = (gain: number) => ({
    left: Float64Array.from(left, (x) => gain * x),
    right: Float64Array.from(right, (x) => gain * x),
  });
  const { tracks } = await desk.newRelease('Both', [
    { name: 'first.wav', signal: quieter(1), sampleRate: RATE },
    { name: 'second.wav', signal: quieter(0.6), sampleRate: RATE },
  ]);
  await desk.openTrack(tracks[0]);
  const card = page.getByRole('article', { name: 'Streaming' });
  await card.getByRole('button', { name: 'Meet…' }).click();
  const sheet = page.getByRole('dialog', { name: 'Meet Streaming' });
  await sheet.getByRole('button', { name: 'All tracks of the release' }).click();
  const outcomes = sheet.getByRole('list', { name: 'What became of each track' }).getByRole('listitem');
  await expect(outcomes).toHaveText([/meets.*first.*Trim, gain/, /meets.*second.*Trim, gain/]);
  await sheet.getByRole('button', { name: 'Close' }).click();
  await desk.checked();
  await expect(card).toContainText('−14.0 LUFS');
  await page.getByRole('link', { name: 'Next track' }).click();
  await desk.checked();
  await expect(page.getByRole('heading', { name: /second/ })).toBeVisible();
  await expect(card).toContainText('−14.0 LUFS');
  await page.getByRole('button', { name: 'Undo' }).click();
  await desk.checked();
  await expect(card).toContainText(/LU too quiet/);
});

test('a house lane is found, heard at equal loudness, taken, moved by its handles; one of one’s own is made and kept', async ({
  page,
  desk,
}) => {
  await desk.listen();
  const { left, right } = programme(20, RATE);
  await desk.openNewTrack('plain.wav', { left: Float64Array.from(left), right: Float64Array.from(right) }, RATE);
  const menu = async (name: RegExp) => {
    await page.getByRole('button', { name: 'Lanes', exact: true }).click();
    await page.getByRole('menuitem', { name }).click();
  };
  await menu(/^House lanes…/);
  const sheet = page.getByRole('dialog', { name: 'House lanes' });
  await sheet.getByRole('textbox', { name: 'Search' }).fill('electronic punch');
  await expect(sheet.getByRole('list', { name: 'House lanes' }).getByRole('button')).toHaveText([
    /^Electronic, deep and loud/,
  ]);
  await sheet.getByRole('textbox', { name: 'Search' }).fill('even finish');
  await sheet.getByRole('button', { name: /^Even finish/ }).click();
  await sheet.getByRole('button', { name: 'Hear the house lane' }).click();
  await expect(page.getByRole('button', { name: 'Pause', includeHidden: true })).toBeAttached();
  await sheet.getByRole('button', { name: 'Begin from it' }).click();
  await desk.checked();
  const handles = page.getByRole('region', { name: 'Handles' });
  await page
    .getByRole('button', { name: /^Limiter/ })
    .first()
    .click();
  const drive = page.getByRole('textbox', { name: 'Input gain value' });
  await expect(drive).toHaveValue('4.0');
  await handles.getByRole('slider', { name: 'Loudness' }).press('End');
  await expect(drive).toHaveValue('8.0');
  await handles.getByRole('slider', { name: 'Amount' }).press('Home');
  await expect(drive).toHaveValue('0.0');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(drive).toHaveValue('8.0');
  // A handle of one's own, by pointing at a control.
  await handles.getByRole('button', { name: 'Edit handles' }).click();
  await handles.getByRole('button', { name: 'Add a handle' }).click();
  await page.getByRole('button', { name: 'Add ceiling to Handle 5' }).click();
  await page.getByRole('textbox', { name: 'Ceiling at 0 %' }).fill('-3');
  await page.getByRole('textbox', { name: 'Ceiling at 0 %' }).press('Enter');
  await handles.getByRole('textbox', { name: 'Name of handle 5' }).fill('Headroom');
  await handles.getByRole('textbox', { name: 'Name of handle 5' }).press('Enter');
  await handles.getByRole('button', { name: 'Done' }).click();
  await handles.getByRole('slider', { name: 'Headroom' }).press('Home');
  await expect(page.getByRole('textbox', { name: 'Ceiling value' })).toHaveValue('−3.0');
  await menu(/^Save as a house lane…/);
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Plain and safe');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await menu(/^House lanes…/);
  await sheet.getByRole('textbox', { name: 'Search' }).fill('headroom');
  await sheet.getByRole('button', { name: /^Plain and safe/ }).click();
  await expect(sheet).toContainText('yours, Any material');
  const saved = page.waitForEvent('download');
  await sheet.getByRole('button', { name: 'Save as a file' }).click();
  const file = await (await saved).path();
  await sheet.getByRole('button', { name: 'Delete Plain and safe' }).click();
  await expect(sheet.getByText('None has all of these words.')).toBeVisible();
  await sheet.getByLabel('House lane file to open').setInputFiles(file);
  await expect(sheet.getByRole('button', { name: /^Plain and safe/ })).toBeVisible();
});
