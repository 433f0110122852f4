import { music } from '../support/music';
import { both, sine } from '../support/signals';
import { wave } from '../support/wave';
import { expect, test } from './test';

test.beforeEach(({ desk }) => desk.listen());

test('playback works from the keyboard: play, skip, loudest passage, mix and master, mono', async ({ page, desk }) => {
  await desk.openDemoTrack('Perihelion');
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Pause', exact: true })).toBeVisible();
  await expect.poll(() => desk.position()).toBeGreaterThan(1);
  await page.keyboard.press('p');
  await expect.poll(() => desk.position()).toBeGreaterThan(20);
  const there = await desk.position();
  await page.keyboard.press('x');
  await expect(page.getByRole('button', { name: '1 Mix' })).toHaveAttribute('aria-pressed', 'true');
  // The switch keeps its place in time.
  expect(Math.abs((await desk.position()) - there)).toBeLessThan(3);
  await page.keyboard.press('m');
  await expect(page.getByRole('button', { name: 'Listen to: Mono (mid)' })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await page.keyboard.press('Home');
  await expect.poll(() => desk.position()).toBe(0);
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('Hear a candidate, at the same place');
});

test('mix and master are equally loud, and the words say by what', async ({ page, desk }) => {
  await desk.openNewTrack('tone.wav', both(sine(997, -20, 40, 48000)), 48000);
  await page.getByRole('button', { name: 'Start with a trim' }).click();
  await desk.setValue('Gain', '6');
  await desk.checked();
  await expect(page.getByTestId('level-match')).toHaveText('master as it is');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(() => desk.heard(997)).toBeGreaterThan(-40);
  await desk.filled();
  const master = await desk.heard(997);
  await page.getByRole('button', { name: '1 Mix' }).click();
  await expect(page.getByTestId('level-match')).toHaveText('mix raised 6.0 dB');
  await desk.filled();
  expect(Math.abs((await desk.heard(997)) - master)).toBeLessThan(0.5);
  // The meter goes on reading what is listened to, before the match.
  await expect(page.getByRole('group', { name: 'Output meter' })).toContainText('−20.');
});

test('stages are added, switched, moved and removed; undo and redo survive a reload', async ({ page, desk }) => {
  await desk.openNewTrack('lane.wav', music(4, 44100), 44100);
  await desk.addStage('Trim', 1);
  await desk.setValue('Gain', '-6');
  await desk.addStage('Equalizer', 2);
  const lane = page.getByRole('region', { name: 'Lane' });
  await desk.stageMenu('Move earlier');
  await expect.poll(() => desk.stops()).toEqual(['Equalizer0 bands', 'Trim−6.0 dB']);
  await lane.getByRole('switch', { name: 'Trim on' }).click();
  await expect.poll(() => desk.stops()).toEqual(['Equalizer0 bands', 'Trimoff']);
  await desk.saved();
  await page.reload();
  await desk.checked();
  await expect.poll(() => desk.stops()).toEqual(['Equalizer0 bands', 'Trimoff']);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => desk.stops()).toEqual(['Equalizer0 bands', 'Trim−6.0 dB']);
  await page.keyboard.press('Control+z');
  await expect.poll(() => desk.stops()).toEqual(['Trim−6.0 dB', 'Equalizer0 bands']);
  await page.reload();
  await desk.checked();
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => desk.stops()).toEqual(['Equalizer0 bands', 'Trim−6.0 dB']);
  await desk.stage('Equalizer').click();
  await desk.stageMenu('Remove');
  await expect.poll(() => desk.stops()).toEqual(['Trim−6.0 dB']);
});

test('a band moves by keyboard, and the ribbon’s figures follow', async ({ page, desk }) => {
  await desk.openNewTrack('band.wav', both(sine(1000, -20, 5, 44100)), 44100);
  await desk.addStage('Equalizer', 1);
  await page.getByRole('button', { name: 'Add band' }).click();
  await desk.setValue('Frequency', '1000');
  const band = page.getByRole('slider', { name: /^Band 1/ });
  await band.focus();
  for (let i = 0; i < 8; i++) await band.press('ArrowUp');
  await expect(band).toHaveAttribute('aria-valuetext', '1000 Hz, +4.0 dB');
  await desk.checked();
  // Loudness, sample peak and true peak.
  await expect(desk.levels()).toContainText('in−20.0−20.0−20.0');
  await expect(desk.levels()).toContainText('out−16.0−16.0−16.0');
  await band.press('ArrowRight');
  await expect(band).toHaveAttribute('aria-valuetext', '1059 Hz, +4.0 dB');
  // Dragged an octave up and 3 dB down; the picture shows ±12 dB.
  const picture = (await page.getByRole('region', { name: 'Equalizer stage' }).locator('canvas').boundingBox())!;
  const handle = (await band.boundingBox())!;
  const from = [handle.x + handle.width / 2, handle.y + handle.height / 2] as const;
  const octave = (picture.width - 78) / Math.log2(1000);
  const decibel = (picture.height - 28) / 24;
  await page.mouse.move(...from);
  await page.mouse.down();
  await page.mouse.move(from[0] + octave, from[1] + 3 * decibel, { steps: 6 });
  await page.mouse.up();
  await expect(band).toHaveAttribute('aria-valuetext', /^21[0-3]\d Hz, \+(0\.9|1\.[01]) dB$/);
  await band.press('Delete');
  await expect(band).toBeHidden();
});

test('a dragged region loops, a press seeks, and the page is left as it was', async ({ page, desk }) => {
  await desk.openNewTrack('loop.wav', music(20, 44100), 44100);
  const programme = page.getByRole('slider', { name: /^Programme/ });
  const box = (await programme.boundingBox())!;
  const at = (share: number) => [box.x + box.width * share, box.y + 60] as const;
  await page.mouse.click(...at(0.5));
  await expect.poll(() => desk.position()).toBeCloseTo(10, 0);
  await page.mouse.move(...at(0.25));
  await page.mouse.down();
  await page.mouse.move(...at(0.35), { steps: 5 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Loop', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await desk.played(3.5);
  const position = await desk.position();
  expect(position).toBeGreaterThanOrEqual(4.9);
  expect(position).toBeLessThanOrEqual(7.1);
  await page.getByRole('button', { name: 'Night theme' }).click();
  await page.reload();
  await desk.checked();
  await expect(page.getByRole('button', { name: 'Loop', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
  await page.getByRole('button', { name: 'Daylight theme' }).click();
});

test('the limiter shows what the core reports', async ({ page, desk }) => {
  await desk.openNewTrack('limit.wav', both(sine(1000, -6, 5, 44100)), 44100);
  await desk.addStage('Limiter', 1);
  await desk.setValue('Input gain', '9');
  await desk.checked();
  // −6 dBFS and 9 dB more against a ceiling of −1 dBTP: 4 dB must go.
  await expect(desk.stage('Limiter')).toHaveAccessibleName(/−4\.0 dB/);
  await expect(page.getByRole('article', { name: 'Streaming' })).toContainText('−1.0 dBTP');
});

test('bad files are refused in words, and a lane goes out and comes back as a file', async ({ page, desk }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New release' }).click();
  await page.getByRole('textbox', { name: 'Title' }).fill('Bad files');
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByRole('heading', { name: 'Bad files' })).toBeVisible();
  const input = page.getByLabel('Mixes to upload');
  await input.setInputFiles({ name: 'notes.wav', mimeType: 'audio/wav', buffer: Buffer.from('no sound') });
  await expect(page.locator('[role=alert].MuiAlert-root')).toContainText(
    'notes.wav: This is not a readable audio file.',
  );

  await input.setInputFiles({ name: 'fine.wav', mimeType: 'audio/wav', buffer: wave(music(3, 44100), 44100) });
  await page.getByRole('link', { name: 'Open' }).click();
  await desk.checked();
  await desk.addStage('Trim', 1);
  await desk.setValue('Gain', '-5');
  await page.getByRole('button', { name: 'Lanes', exact: true }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: /^Save this lane/ }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('fine - First version.lane.json');
  const file = await download.path();
  await desk.stageMenu('Remove');
  await expect(desk.stage('Trim')).toBeHidden();
  await page.getByLabel('Lane file to open').setInputFiles(file);
  await expect(desk.stage('Trim')).toHaveAccessibleName(/−5\.0 dB/);
  await page
    .getByLabel('Lane file to open')
    .setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{"schema":9}') });
  await expect(page.locator('[role=alert].MuiAlert-root')).toContainText('The lane can’t be read.');
});

test('a delivery that fails its verdict says so plainly', async ({ page, desk }) => {
  await desk.openNewTrack('quiet.wav', both(sine(997, -40, 5, 44100)), 44100);
  await page.getByRole('button', { name: 'Deliver…' }).click();
  await page.getByRole('radio', { name: /Streaming/ }).check();
  await page.getByRole('checkbox', { name: /Raise by 26\.0 dB.*to meet the loudness/ }).uncheck();
  await expect(page.locator('[role=alert].MuiAlert-root')).toContainText('this delivery will miss');
  await page.getByRole('button', { name: 'Deliver although it misses' }).click();
  await expect(page.locator('[role=alert].MuiAlert-root')).toContainText(
    'Failed: the finished file does not meet its destination',
  );
  await expect(page.getByRole('link', { name: 'Download anyway' })).toBeVisible();
});

test('the demo’s planted matters are found: a mix that clips has overs between its samples', async ({ page, desk }) => {
  await desk.openDemoRelease();
  const findings = page.getByRole('article', { name: 'Debris Field' }).getByRole('list', { name: 'Findings' });
  await expect(findings).toContainText('Clipped.');
  await expect(findings).toContainText('Overs between samples.');
  const piece = page.getByRole('article', { name: 'Perihelion' });
  await expect(piece.getByRole('link', { name: /^delivery meets/ })).toBeVisible();
});
