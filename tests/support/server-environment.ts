import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { Circus } from '@jest/types';
import { TestEnvironment } from 'jest-environment-node';

/** Logs of the applications that run now, each with its length. */
function logs(): Map<string, number> {
  const files = readdirSync(os.tmpdir())
    .filter((name) => name.startsWith('copper-application-'))
    .flatMap((name) => ['server.log', 'worker.log'].map((log) => path.join(os.tmpdir(), name, log)));
  return new Map(files.filter((file) => existsSync(file)).map((file) => [file, statSync(file).size]));
}

/**
 * Shows what the applications logged during a test that failed. A `beforeAll` that fails is one failure: the tests that could not
 * begin are left out, not failed one by one.
 */
export default class ServerEnvironment extends TestEnvironment {
  private before = new Map<string, number>();

  handleTestEvent(event: Circus.Event): void {
    if (event.name === 'test_start') this.before = logs();
    if (event.name === 'test_done' && event.test.errors.length > 0) {
      const lines = [...logs()].map(([file]) => readFileSync(file, 'utf8').slice(this.before.get(file) ?? 0));
      console.log(`What the applications logged during “${event.test.name}”:\n${lines.join('') || '(nothing)'}`);
    }
    if (event.name === 'hook_failure' && event.hook.type === 'beforeAll')
      for (const test of testsOf(event.hook.parent).slice(1)) {
        test.errors = [];
        test.mode = 'skip';
      }
  }
}

function testsOf({ children }: Circus.DescribeBlock): Circus.TestEntry[] {
  return children.flatMap((child) => (child.type === 'test' ? [child] : testsOf(child)));
}
