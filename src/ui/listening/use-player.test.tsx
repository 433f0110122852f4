import type { HeardTrack } from '../../contracts/listening';
import { recallPlace } from './remembered-place';
import { trackAt } from './use-player';

const track = (startSeconds: number, endSeconds: number) => ({ startSeconds, endSeconds }) as HeardTrack;

test.each([
  [0, 0],
  [9.9, 0],
  // A gap belongs to the track before it.
  [11, 0],
  // A player tells a place back a little before the start that it was sent to.
  [11.99, 1],
  [12, 1],
  [500, 2],
])('at %d s track %d plays', (seconds, index) => {
  expect(trackAt([track(0, 10), track(12, 20), track(20, 30)], seconds)).toBe(index);
});

test.each([
  ['{"seconds":12.5,"source":"mix","author":"Dana"}', { seconds: 12.5, source: 'mix', author: 'Dana' }],
  ['{"seconds":-3,"source":"constructor","author":7}', { seconds: 0 }],
  ['{"seconds":"1"}', {}],
  ['null', {}],
  ['{', {}],
])('of %s is recalled what makes sense', (kept, place) => {
  localStorage.setItem('copper-lane-listening-l', kept);
  expect(recallPlace('l')).toEqual(place);
});
