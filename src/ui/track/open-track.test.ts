import type { TrackDetails } from '../../contracts/track';
import { EMPTY_LANE } from '../../core/lane/schema';
import { OpenTrack } from './open-track';

const titled = (title: string): TrackDetails => ({
  track: { id: 't', title, position: 1, chosenVersionId: 'v' },
  release: { id: 'r', title: 'Release', artist: '' },
  ...{ previousTrackId: null, nextTrackId: null, mix: null, candidates: null, tags: {} },
  ...{
    mixes: [],
    tracks: [],
    destinations: [],
    adjustments: [],
    deliveries: [],
    notes: [],
    encodes: [],
    references: [],
  },
  versions: [
    {
      ...{ id: 'v', name: 'First version', step: 0, lane: EMPTY_LANE, pins: [], undo: null, redo: null },
      createdAt: '2026-01-01T00:00:00.000Z',
    },
  ],
});

test('an older answer about the track does not take the place of a newer one', async () => {
  const answers: ((response: Response) => void)[] = [];
  globalThis.fetch = () => new Promise<Response>((resolve) => answers.push(resolve));
  const track = new OpenTrack(titled('Opened'));
  const [older, newer] = [track.refresh(), track.refresh()];
  answers[1](Response.json(titled('Newer')));
  await newer;
  answers[0](Response.json(titled('Older')));
  expect((await older).track.title).toBe('Older');
  expect(track.details.track.title).toBe('Newer');
});
