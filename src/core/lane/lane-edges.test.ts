import { edgesSchema, WHOLE_MIX } from '../sequence/edges';
import { withEdges, withEdgesOf } from './lane-edges';
import { EMPTY_LANE, LANE_SCHEMA, parseLane, type Lane } from './schema';

const edges = edgesSchema.parse({ startSeconds: 1.5, fadeOut: { seconds: 3, shape: 'linear' } });
const edged: Lane = { ...EMPTY_LANE, edges };

test('edges are saved with a lane and read again', () => {
  expect(parseLane(JSON.parse(JSON.stringify(edged)))).toEqual(edged);
});

test('a lane from before there were edges begins and ends with its mix', () => {
  expect(parseLane({ schema: LANE_SCHEMA - 1, stages: [] })).toEqual(EMPTY_LANE);
});

test('edges of the whole mix are none', () => {
  expect(withEdges(EMPTY_LANE, edges)).toEqual(edged);
  expect(withEdges(edged, { ...WHOLE_MIX })).toEqual(EMPTY_LANE);
});

test('a lane that comes from elsewhere leaves its own edges behind', () => {
  const other = { ...EMPTY_LANE, edges: edgesSchema.parse({ startSeconds: 9 }) };
  expect(withEdgesOf(other, edged)).toEqual(edged);
  expect(withEdgesOf(other, EMPTY_LANE)).toEqual(EMPTY_LANE);
});
