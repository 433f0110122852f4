import { test } from '@playwright/test';
import { Desk } from './desk';
import { expectSameBits, noteScripts } from './same-bits';

test('the same lane gives the same bits in the worklet, the browser’s worker and on the server', async ({ page }) => {
  await page.addInitScript(noteScripts);
  const desk = new Desk(page);
  await desk.signIn();
  await desk.openDemoTrack('Perihelion');
  await expectSameBits((run, order) => page.evaluate(run, order));
});
