// No file imports itself by way of others: a reader, and a bundler, can begin with those that need nothing.
import { readdirSync } from 'node:fs';
import path from 'node:path';
import { build } from 'esbuild';

const ROOT = path.join(import.meta.dirname, '../..');

/** Which files each file of the program imports when it runs; types alone do not count. */
async function importsOfEach(): Promise<Map<string, string[]>> {
  const names = readdirSync(path.join(ROOT, 'src'), { recursive: true, encoding: 'utf8' })
    .filter((name) => /\.tsx?$/.test(name) && !name.startsWith('core/kernels/assembly'))
    .map((name) => `import './src/${name}';`);
  const { metafile } = await build({
    ...{ bundle: true, write: false, metafile: true, packages: 'external', platform: 'node', format: 'esm' },
    ...{
      absWorkingDir: ROOT,
      outdir: 'nowhere',
      logLevel: 'silent',
      stdin: { contents: names.join('\n'), resolveDir: ROOT },
    },
    loader: { '.css': 'empty', '.png': 'empty', '.svg': 'empty' },
  });
  return new Map(
    Object.entries(metafile.inputs).map(([name, { imports }]) => [
      name,
      imports.filter(({ external }) => !external).map((each) => each.path),
    ]),
  );
}

/** A way from a file back to itself, or none. */
function cycleIn(imports: ReadonlyMap<string, string[]>): string[] | null {
  const done = new Set<string>();
  const way: string[] = [];
  const visit = (name: string): string[] | null => {
    if (way.includes(name)) return [...way.slice(way.indexOf(name)), name];
    if (done.has(name)) return null;
    way.push(name);
    for (const next of imports.get(name) ?? []) {
      const found = visit(next);
      if (found) return found;
    }
    way.pop();
    done.add(name);
    return null;
  };
  for (const name of imports.keys()) {
    const found = visit(name);
    if (found) return found;
  }
  return null;
}

test('imports form no circle', async () => {
  const imports = await importsOfEach();
  expect(imports.size).toBeGreaterThan(500);
  expect(cycleIn(imports)).toBeNull();
  // The search does find one.
  const [importer, [imported]] = [...imports].find(([, all]) => all.length > 0)!;
  expect(cycleIn(new Map([...imports, [imported, [importer]]]))).toEqual(expect.arrayContaining([importer, imported]));
});
