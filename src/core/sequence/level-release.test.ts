import { proposeTrims, type LevelledTrack } from './level-release';

const tracks: LevelledTrack[] = [
  { id: 'single', integratedLufs: -9.04 },
  { id: 'ballad', integratedLufs: -15.5 },
  { id: 'silence', integratedLufs: -Infinity },
];
const trims = (...args: Parameters<typeof proposeTrims>) => Object.fromEntries(proposeTrims(...args));

test('by an anchor every track becomes as loud as it, and it stays as it is', () => {
  expect(trims(tracks, -11, { by: 'anchor', trackId: 'ballad' })).toEqual({ single: -6.5, ballad: 0 });
});

test('by the loudest track, or by the album, all move by the same and keep their distances', () => {
  expect(trims(tracks, -11, { by: 'loudest', lufs: -14 })).toEqual({ single: -5, ballad: -5 });
  expect(trims(tracks, -11, { by: 'album', lufs: -16 })).toEqual({ single: -5, ballad: -5 });
});

test('where nothing is heard nothing is proposed', () => {
  expect(trims([tracks[2]], -Infinity, { by: 'loudest', lufs: -14 })).toEqual({});
  expect(trims(tracks, -11, { by: 'anchor', trackId: 'silence' })).toEqual({});
  expect(trims([], -Infinity, { by: 'album', lufs: -14 })).toEqual({});
});
