import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { pino } from 'pino';
import { AudioStore } from './audio-store';
import { BackgroundCheck } from './check';

test('the background check goes through all files, over and over, and names what is damaged or missing', async () => {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-check-'));
  try {
    const store = new AudioStore(folder);
    const put = async (text: string) => {
      const file = await store.temporary();
      writeFileSync(file, text);
      return (await store.put(file)).hash;
    };
    const [whole, damaged, missing] = [await put('whole'), await put('damaged'), await put('missing')];
    writeFileSync(store.path(damaged), 'danaged');
    rmSync(store.path(missing));
    const lines: { file: string; state: string }[] = [];
    const logger = pino({ level: 'error' }, { write: (line: string) => void lines.push(JSON.parse(line) as never) });
    const check = new BackgroundCheck(store, () => Promise.resolve(new Set([whole, damaged, missing])), logger);
    // A bit at a time until the first round is through, then a whole round.
    while (lines.length < 2) await check.next(1);
    await check.next(Infinity);
    if (lines.length === 2) await check.next(Infinity);
    const said = lines.map(({ file, state }) => `${file} ${state}`).sort();
    expect(said).toEqual(
      [`${damaged} damaged`, `${damaged} damaged`, `${missing} missing`, `${missing} missing`].sort(),
    );
  } finally {
    rmSync(folder, { recursive: true });
  }
});
