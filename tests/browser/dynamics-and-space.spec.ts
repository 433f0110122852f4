import { both, noise, sine, type Stereo } from '../support/signals';
import { wave } from '../support/wave';
import { expect, test } from './test';

const RATE = 44100;
test.beforeEach(({ desk }) => desk.listen());

/** Tones below, between and above the crossovers that a new lane has. */
function threeTones(): Stereo {
  const tones = [70, 1000, 6000].map((hz) => sine(hz, -24, 6, RATE));
  return both(tones[0].map((x, i) => x + tones[1][i] + tones[2][i]));
}

test('a dragged crossover moves in every stage that works by bands, and changes what they do', async ({
  page,
  desk,
}) => {
  await desk.openNewTrack('bands.wav', both(sine(1000, -20, 6, RATE)), RATE);
  await desk.addStage('Stereo', 1);
  await desk.addStage('Band dynamics', 2);
  const stage = page.getByRole('region', { name: 'Band dynamics stage' });
  const crossover = page.getByRole('slider', { name: /^Crossover 2/ });
  await expect(crossover).toHaveAttribute('aria-valuetext', '2500 Hz');
  // The middle band is pressed open and compressed: the tone lies in it.
  const box = (await stage.locator('canvas').first().boundingBox())!;
  await page.mouse.click(box.x + box.width * 0.5, box.y + box.height * 0.6);
  await expect(stage).toContainText('160 to 2.5 k Hz');
  await desk.setValue('Compression threshold', '-40');
  await desk.setValue('Compression ratio', '20');
  await desk.checked();
  await expect(desk.levels()).toContainText(/out−3\d\.\d/);
  // A point of its curve is dragged: a step of the history, or more where it rests on the way.
  const threshold = stage.getByRole('slider', { name: /^Band 2: compression threshold/ });
  const value = page.getByRole('textbox', { name: 'Compression threshold value' });
  const from = (await threshold.boundingBox())!;
  await page.mouse.move(from.x + 12, from.y + 12);
  await page.mouse.down();
  await page.mouse.move(from.x + 42, from.y + 12, { steps: 5 });
  await page.mouse.up();
  await expect(value).not.toHaveValue('−40.0');
  const dragged = await value.inputValue();
  expect(Number(dragged.replace('−', '-'))).toBeGreaterThan(-38);
  await threshold.press('ArrowRight');
  await expect(value).not.toHaveValue(dragged);
  await page.keyboard.press('Control+z');
  await expect(value).toHaveValue(dragged);
  await expect(async () => {
    await page.keyboard.press('Control+z');
    await expect(value).toHaveValue('−40.0', { timeout: 2000 });
  }).toPass();
  await desk.checked();
  // Dragged below the tone, which then lies in the band above.
  const handle = (await crossover.boundingBox())!;
  await page.mouse.move(handle.x + handle.width / 2, handle.y + 60);
  await page.mouse.down();
  await page.mouse.move(handle.x + handle.width / 2 - 165, handle.y + 60, { steps: 6 });
  await page.mouse.up();
  await expect(crossover).toHaveAttribute('aria-valuetext', /^[34]\d\d Hz$/);
  const words = (await crossover.getAttribute('aria-valuetext'))!;
  await desk.checked();
  await expect(desk.levels()).toContainText(/out−20\.\d/);
  await desk.stage('Stereo').click();
  await expect(page.getByRole('slider', { name: /^Crossover 2/ })).toHaveAttribute('aria-valuetext', words);
  // By keys, and back by undo.
  await page.getByRole('slider', { name: /^Crossover 2/ }).press('ArrowRight');
  await expect(page.getByRole('slider', { name: /^Crossover 2/ })).not.toHaveAttribute('aria-valuetext', words);
  await desk.saved();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByRole('slider', { name: /^Crossover 2/ })).toHaveAttribute('aria-valuetext', words);
});

test('bands are split and joined, and one is heard alone', async ({ page, desk }) => {
  await desk.openNewTrack('solo.wav', threeTones(), RATE);
  await desk.addStage('Band dynamics', 1);
  const stage = page.getByRole('region', { name: 'Band dynamics stage' });
  await expect(stage).toContainText('Band 1 below 160 Hz');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(() => desk.heard(6000)).toBeGreaterThan(-40);
  await page.keyboard.press('r');
  await expect(page.getByRole('button', { name: 'Solo this band' })).toHaveAttribute('aria-pressed', 'true');
  await expect.poll(async () => (await desk.heard(70)) - (await desk.heard(6000))).toBeGreaterThan(50);
  await page.keyboard.press('r');
  await expect.poll(async () => Math.abs((await desk.heard(70)) - (await desk.heard(6000)))).toBeLessThan(3);
  await page.getByRole('button', { name: /^Split band/ }).click();
  await expect(page.getByRole('slider', { name: /^Crossover/ })).toHaveCount(3);
  await page.getByRole('slider', { name: /^Crossover 1/ }).press('Delete');
  await expect(page.getByRole('slider', { name: /^Crossover/ })).toHaveCount(2);
});

test('the compressor’s figures are those of the core, its makeup matches by measurement, and undo takes one step', async ({
  page,
  desk,
}) => {
  await desk.openNewTrack('squeezed.wav', both(sine(1000, -10, 6, RATE)), RATE);
  await desk.addStage('Compressor', 1);
  await desk.setValue('Threshold', '-30');
  await desk.setValue('Ratio', '4');
  await desk.checked();
  // 20 dB above the threshold at 4:1: 15 dB, all the time; the knee of 6 dB is far below.
  const reductions = page.getByLabel('Gain reduction, typical and most');
  await expect(reductions).toContainText(/Loudest passage−1[45]\.\d \/ −15\.0 dB/);
  await expect(page.getByRole('note')).toContainText('More than 3 dB on the loudest passage is audible');
  await expect(desk.stage('Compressor')).toContainText('−15.0 dB');
  await expect(desk.levels()).toContainText(/out−2[45]\.\d/);
  // Live, the stop says what the core reports.
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(desk.stage('Compressor')).toContainText(/−1[45]\.\d dB/);
  await page.getByRole('button', { name: 'Pause', exact: true }).click();
  await page.getByText('Auto makeup', { exact: true }).click();
  await expect(page.getByRole('textbox', { name: 'Makeup value' })).toHaveValue(/1[45]\.\d/, { timeout: 30_000 });
  await desk.checked();
  await expect(desk.levels()).toContainText(/out−(9\.9|10\.[01])/);
  await desk.saved();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByRole('textbox', { name: 'Makeup value' })).toHaveValue('0.0');
  await expect(page.getByRole('switch', { name: /Auto makeup/ }).or(page.getByLabel(/Auto makeup/))).not.toBeChecked();
});

test('stereo to mono: the width goes, the correlation rises and nothing is lost in mono any more', async ({
  page,
  desk,
}) => {
  const signal = { left: noise(6 * RATE, 0.2, 1), right: noise(6 * RATE, 0.2, 2) };
  await desk.openNewTrack('wide.wav', signal, RATE);
  await desk.addStage('Stereo', 1);
  const lost = page.getByLabel('Fold-down loss');
  await expect(lost).toContainText(/3\.0 → 3\.0/);
  await desk.setValue('All bands', '0');
  await desk.checked();
  await expect(lost).toContainText(/3\.0 → 0\.0/);
  await expect(page.getByLabel('Correlation', { exact: true })).toContainText(/all\+1\.00/);
  await expect(desk.stage('Stereo')).toContainText('0 % wide');
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByLabel('Correlation', { exact: true })).toContainText(/now.*all\+1\.00/s);
});

test('an impulse response is put in, heard, found again after a reload, and taken away when no room uses it', async ({
  page,
  desk,
}) => {
  const click = new Float64Array(6 * RATE);
  for (let i = 0; i < click.length; i += RATE / 2) click[i] = 0.5;
  await desk.openNewTrack('clicks.wav', both(click), RATE);
  await desk.addStage('Room', 1);
  const tail = noise(RATE, 0.3, 7).map((x, i) => x * Math.exp((-5 * i) / RATE));
  await page.getByLabel('Impulse response to upload').setInputFiles({
    name: 'Vault.wav',
    mimeType: 'audio/wav',
    buffer: wave(both(tail), RATE),
  });
  await expect(page.getByRole('combobox', { name: 'Room' })).toHaveText(/Vault, 1\.0 s/);
  await desk.setValue('High-pass', '20');
  await desk.setValue('Low-pass', '20000');
  await desk.setValue('Wet', '0');
  await desk.checked();
  // Between the clicks there was silence; now there is a room.
  await expect(desk.levels()).toContainText(/in−\d\d\.\d/);
  const loudness = async (row: string) => {
    const text = (await desk.levels().textContent()) ?? '';
    return Number(new RegExp(`${row}(−?\\d+\\.\\d)`).exec(text)?.[1].replace('−', '-'));
  };
  await expect.poll(async () => (await loudness('out')) - (await loudness('in'))).toBeGreaterThan(1);
  await desk.saved();
  await page.reload();
  await desk.checked();
  await expect(page.getByRole('combobox', { name: 'Room' })).toHaveText(/Vault, 1\.0 s/);
  await expect.poll(async () => (await loudness('out')) - (await loudness('in'))).toBeGreaterThan(1);
  const list = page.getByRole('button', { name: 'All impulse responses' });
  const remove = page.getByRole('button', { name: 'Remove Vault' });
  await list.click();
  await remove.click();
  await expect(page.getByText(/^“Vault” is used by a room in “clicks”, version “First version”/)).toBeVisible();
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('combobox', { name: 'Room' }).click();
  await page.getByRole('option', { name: /^Studio/ }).click();
  await list.click();
  await remove.click();
  await expect(remove).toBeHidden();
});

test('the de-esser listens to its region and calms it', async ({ page, desk }) => {
  const hiss = sine(7000, -12, 6, RATE).map((x, i) => (Math.floor(i / (RATE / 2)) % 2 ? x : 0));
  const voice = sine(300, -12, 6, RATE).map((x, i) => (Math.floor(i / (RATE / 2)) % 2 ? x / 30 : x));
  await desk.openNewTrack('voice.wav', both(voice.map((x, i) => x + hiss[i])), RATE);
  await desk.addStage('De-esser', 1);
  await desk.setValue('Frequency', '7000');
  await desk.setValue('Threshold', '-12');
  await desk.setValue('Range', '6');
  await desk.checked();
  await expect(desk.stage('De-esser')).toContainText(/−(5\.[5-9]|6\.0) dB/);
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.getByRole('button', { name: 'Hear the side-chain' }).click();
  await desk.filled();
  // Over more than a second, both parts of the track: the tone of 300 Hz is hardly there.
  const heard: number[][] = [];
  for (let i = 0; i < 8; i++) {
    heard.push([await desk.heard(300), await desk.heard(7000)]);
    await desk.played(0.2);
  }
  const most = (column: number) => Math.max(...heard.map((each) => each[column]));
  expect(most(1) - most(0)).toBeGreaterThan(20);
});
