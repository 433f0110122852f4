import { readFileSync } from 'node:fs';
import { EXAMPLE_LANE, laneFileDocumentation } from './documentation';
import { parseLane } from './schema';

test('docs/lane-file.md is what the schemas say now: npm run docs writes it', () => {
  expect(readFileSync('docs/lane-file.md', 'utf8')).toBe(laneFileDocumentation());
});

test('its example is a lane', () => {
  expect(parseLane(JSON.parse(EXAMPLE_LANE)).stages).toHaveLength(1);
});
