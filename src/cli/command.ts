import { existsSync } from 'node:fs';
import path from 'node:path';

/** A text for the terminal: what a file or a name brings along must not steer it. */
export function printable(text: string): string {
  return text.replace(/[^\P{C}\n\t]/gu, '\ufffd');
}

/** Runs a command; what goes wrong is one sentence on standard error and exit status 1. */
export async function runCommand(command: () => Promise<void>): Promise<void> {
  try {
    await command();
  } catch (error) {
    process.stderr.write(printable(`${error instanceof Error ? error.message : String(error)}\n`));
    process.exitCode = 1;
  }
}

/** Absolute path of a file that must exist. */
export function existing(file: string): string {
  const absolute = path.resolve(file);
  if (!existsSync(absolute)) throw new Error(`There is no file ${file}.`);
  return absolute;
}
