import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test as base } from '@playwright/test';
import { newClient, type TestClient } from '../support/client';
import { Desk } from './desk';

interface Fixtures {
  /** A new account of this test alone, for what an engineer does beside what is tested. */
  client: TestClient;
  /** The page, signed in to that account. */
  desk: Desk;
}

const LOGS = ['server.log', 'worker.log'].map((name) => path.join(process.env.TEST_FOLDER ?? '', name));
const read = (file: string) => (existsSync(file) ? readFileSync(file, 'utf8') : '');

/** Browser tests: a page whose console and server log are shown when the test fails, and an account of its own. */
export const test = base.extend<Fixtures>({
  baseURL: async ({}, give) => give(process.env.TEST_URL),
  page: async ({ page }, give, info) => {
    const before = LOGS.map((file) => read(file).length);
    const lines: string[] = [];
    page.on('console', (message) => lines.push(`console, ${message.type()}: ${message.text()}`));
    page.on('pageerror', (error) => lines.push(`page: ${error.message}`));
    await give(page);
    if (info.status === info.expectedStatus) return;
    LOGS.forEach((file, i) => lines.push(...read(file).slice(before[i]).split('\n').filter(Boolean)));
    console.log(`What the page and the server said during “${info.title}”:\n${lines.join('\n') || '(nothing)'}`);
  },
  client: async ({}, give) => give(await newClient()),
  desk: async ({ page, client, context }, give) => {
    await context.addCookies(client.cookies.map(([name, value]) => ({ name, value, url: client.url })));
    await give(new Desk(page, client));
  },
});

export { expect };
