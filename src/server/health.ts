import { constants } from 'node:fs';
import { access, mkdir } from 'node:fs/promises';
import path from 'node:path';
import { output } from './codecs/process';
import { getConfig } from './config';
import { database } from './database/connection';

export interface Health {
  database: boolean;
  store: boolean;
  ffmpeg: boolean;
}

async function works(check: () => Promise<unknown>): Promise<boolean> {
  try {
    await check();
    return true;
  } catch {
    return false;
  }
}

/** Whether everything the application leans on answers. */
export async function health(): Promise<Health> {
  const [databaseWorks, store, ffmpeg] = await Promise.all([
    works(() => database().raw('select 1').timeout(3000)),
    works(async () => {
      const folder = path.join(getConfig().dataFolder, 'audio');
      await mkdir(folder, { recursive: true });
      await access(folder, constants.W_OK);
    }),
    works(() => output('ffmpeg', ['-version'])),
  ]);
  return { database: databaseWorks, store, ffmpeg };
}
