import { readFileSync } from 'node:fs';
import { laneFileDocumentation } from './documentation';
import { parseLane } from './schema';

test('docs/lane-file.md is what the schemas say now: npm run docs writes it', () => {
  expect(readFileSync('docs/lane-file.md', 'utf8')).toBe(laneFileDocumentation());
});

test('its example is a lane', () => {
  const [, example] = /```json\n(.*)\n```/.exec(laneFileDocumentation())!;
  expect(parseLane(JSON.parse(example)).stages).toHaveLength(1);
});
