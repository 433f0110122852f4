import { render, screen } from '@testing-library/react';
import type { ReleaseSummary } from '../../contracts/release';
import { ReleaseRow } from './release-row';

const RELEASE: ReleaseSummary = {
  ...{ id: 'r', title: 'Slow Orbits', artist: '', tracks: 5, deliveries: 0, deliveredTracks: 0, analysing: 0 },
  ...{ refused: 0, createdAt: '2026-03-05T12:00:00Z', archived: false },
};

test.each([
  [{}, 'Nothing delivered yet'],
  [{ tracks: 0 }, 'No tracks yet'],
  [{ deliveredTracks: 3 }, '3 of 5 tracks delivered'],
  [{ deliveredTracks: 5 }, 'All tracks delivered'],
  [{ deliveredTracks: 5, refused: 1 }, '1 mix refused'],
  [{ analysing: 2, refused: 1 }, 'Analysing 2 mixes'],
])('a release with %p says “%s”', (state, words) => {
  render(<ReleaseRow release={{ ...RELEASE, ...state }} actions={[]} />);
  expect(screen.getByRole('link').textContent).toContain(words);
});
