// The examples in the comments of the core's functions, run: an expression and, after “//”, what it gives: numbers to the
// decimals that are written there, or a text.
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';

const CORE = path.join(import.meta.dirname, '../../src/core');
const EXAMPLE = /^ \* (.+?) \/\/ (.+)$/;

const modules = readdirSync(CORE, { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'))
  .map((file) => ({ file, text: readFileSync(path.join(CORE, file), 'utf8') }))
  .filter(({ text }) => text.includes(' * @example'));

const examples = modules.flatMap(({ file, text }) =>
  [...text.matchAll(/@example\n((?: \* .*\n)+?) \*\//g)].flatMap(([, lines]) =>
    lines
      .trimEnd()
      .split('\n')
      .map((line) => {
        const [, expression, value] = EXAMPLE.exec(line) ?? [];
        if (!expression) throw new Error(`${file}: this example says no value: ${line}`);
        return { file, expression, value };
      }),
  ),
);

const decimals = (value: string) => /\.(\d+)/.exec(value)?.[1].length ?? 0;

test('the functions that state the field’s mathematics have examples', () => {
  expect(examples.length).toBeGreaterThan(30);
});

test.each(examples)('$file: $expression is $value', async ({ expression, value }) => {
  const scope: Record<string, unknown> = {};
  for (const { file } of modules) Object.assign(scope, await import(path.join(CORE, file)));
  const names = Object.keys(scope);
  // eslint-disable-next-line @typescript-eslint/no-implied-eval
  const run = new Function(...names, `return (${expression});`) as (
    ...values: unknown[]
  ) => string | number | ArrayLike<number>;
  const given = run(...names.map((name) => scope[name]));
  if (typeof given === 'string') return expect(`'${given}'`).toBe(value);
  const numbers = typeof given === 'number' ? [given] : Array.from(given);
  const wanted = value.replace(/[[\]]/g, '').split(', ');
  expect(numbers).toHaveLength(wanted.length);
  wanted.forEach((each, i) => expect(numbers[i]).toBeCloseTo(Number(each), decimals(each) || 9));
});
