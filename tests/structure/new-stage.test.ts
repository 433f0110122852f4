// Adding a kind of stage touches its own folders, one line in the core's list of kinds and one in the interface's, nothing
// else: done here to a copy of the program, which must still pass the type check and run, edit and document the new stage.
import { execFileSync, spawnSync } from 'node:child_process';
import { appendFileSync, cpSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';

const HERE = import.meta.dirname;
const ROOT = path.join(HERE, '../..');
const COMPILER = path.join(ROOT, 'node_modules/typescript-native/bin/tsc');
const OPTIONS = ['--noEmit', '--incremental', 'false', '--singleThreaded'];
/** Runs a lane with the new stage, changes a setting, and prints what came of it. */
const RUN = `
import { laneFileDocumentation } from './src/core/lane/documentation';
import { LaneProcessor } from './src/core/lane/processor';
import { LANE_SCHEMA, newStage, parseLane } from './src/core/lane/schema';
import { withSetting } from './src/core/lane/stage-edits';
import { definitionOf, STAGE_KINDS } from './src/core/stages/registry';

const one = { ...newStage('polarity', 'a'), settings: { left: true, right: false } };
const both = withSetting(one, 'right', true);
const lane = (stage) => parseLane(JSON.parse(JSON.stringify({ schema: LANE_SCHEMA, stages: [stage] })));
const processor = new LaneProcessor(lane(one), { sampleRate: 48000, maxFrames: 4096, meterHops: 0 });
const block = () => {
  processor.left.fill(0.25);
  processor.right.fill(0.5);
  processor.process(4096);
  return [processor.left[4095], processor.right[4095]];
};
const blocks = [block()];
processor.update(lane(both));
blocks.push(block());
const figure = definitionOf(both).figure(both.settings, 1);
const documented = laneFileDocumentation().includes('Inverts the polarity of the left channel.');
console.log(JSON.stringify({ blocks, menu: STAGE_KINDS, figure, documented }));
`;
const copy = mkdtempSync(path.join(os.tmpdir(), 'copper-lane-new-stage-'));

beforeAll(() => {
  const filter = (file: string) => !/\.test\.tsx?$/.test(file);
  cpSync(path.join(ROOT, 'src'), path.join(copy, 'src'), { recursive: true, filter });
  for (const file of ['package.json', 'tsconfig.json', 'next.config.ts']) {
    cpSync(path.join(ROOT, file), path.join(copy, file));
  }
  symlinkSync(path.join(ROOT, 'node_modules'), path.join(copy, 'node_modules'));
  writeFileSync(path.join(copy, 'next-env.d.ts'), '/// <reference types="next" />\n');
});
afterAll(() => rmSync(copy, { recursive: true, force: true }));

test('a new kind of stage is its folders and two lines', () => {
  cpSync(path.join(HERE, 'new-stage/core'), path.join(copy, 'src/core/stages/polarity'), { recursive: true });
  cpSync(path.join(HERE, 'new-stage/ui'), path.join(copy, 'src/ui/stages/polarity'), { recursive: true });
  appendFileSync(path.join(copy, 'src/core/stages/kinds.ts'), "export { polarity } from './polarity/definition';\n");
  appendFileSync(
    path.join(copy, 'src/ui/stages/panels.ts'),
    "export { PolarityPanel as polarity } from './polarity/polarity-panel';\n",
  );
  const types = spawnSync(process.execPath, [COMPILER, ...OPTIONS], { cwd: copy, encoding: 'utf8' });
  expect(types.stdout).toBe('');

  writeFileSync(path.join(copy, 'run.ts'), RUN);
  const said = execFileSync(path.join(ROOT, 'node_modules/.bin/tsx'), ['run.ts'], { cwd: copy, encoding: 'utf8' });
  const { blocks, menu, figure, documented } = JSON.parse(said) as Record<string, unknown>;
  expect(blocks).toEqual([
    [-0.25, 0.5],
    [-0.25, -0.5],
  ]);
  expect(menu).toContain('polarity');
  expect(figure).toEqual({ text: 'both' });
  expect(documented).toBe(true);
});
