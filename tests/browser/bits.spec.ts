import { expectSameBits, noteScripts } from './same-bits';
import { test } from './test';

test('the same lane gives the same bits in the worklet, the browser’s worker and on the server', async ({
  page,
  desk,
}) => {
  await page.addInitScript(noteScripts);
  await desk.openDemoTrack('Perihelion');
  await expectSameBits((run, order) => page.evaluate(run, order));
});
