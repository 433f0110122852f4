import { execFileSync } from 'node:child_process';
import { chmodSync, mkdtempSync, renameSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Application } from './application';

/** Prepares an installation, stopped, in a folder: `empty`, or `demo` with the demo in it. */
async function prepared(folder: string, name: 'empty' | 'demo'): Promise<void> {
  const application = new Application({ demo: name === 'demo' });
  try {
    await application.prepare();
  } finally {
    await application.halt();
  }
  // A move across disks would not keep the owner of the database.
  execFileSync('cp', ['-a', application.folder, path.join(folder, `${name}.part`)]);
  renameSync(path.join(folder, `${name}.part`), path.join(folder, name));
  rmSync(application.folder, { recursive: true });
}

/** Prepares installations in a folder, for COPPER_TEST_TEMPLATES. */
export async function prepareTemplates(folder: string, names: readonly ('empty' | 'demo')[]): Promise<void> {
  chmodSync(folder, 0o755);
  for (const name of names) await prepared(folder, name);
}

/** Has all applications of a run copy installations that are prepared now, unless they were before; gives what removes them. */
export async function withTemplates(...names: ('empty' | 'demo')[]): Promise<() => void> {
  if (process.env.COPPER_TEST_TEMPLATES) return () => {};
  const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-templates-'));
  await prepareTemplates(folder, names);
  process.env.COPPER_TEST_TEMPLATES = folder;
  return () => rmSync(folder, { recursive: true });
}
