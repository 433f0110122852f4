import { render, screen } from '@testing-library/react';
import type { ReleaseSummary } from '../../contracts/release';
import { ReleaseRow } from './release-row';

const RELEASE: ReleaseSummary = {
  ...{ id: 'r', title: 'Slow Orbits', artist: '', tracks: 5, deliveries: 0, deliveredTracks: 0, analysing: 0 },
  ...{ status: 'working', refused: 0, createdAt: '2026-03-05T12:00:00Z', archived: false },
};

test.each([
  [{}, 'In work'],
  [{ status: 'waiting', tracks: 0 }, 'Waiting for mixesNo tracks yet'],
  [{ status: 'client', deliveredTracks: 3 }, 'With the client3 of 5 tracks delivered'],
  [{ status: 'delivered', deliveredTracks: 5 }, 'Delivered'],
  [{ status: 'delivered', deliveredTracks: 5, refused: 1 }, '1 mix refused'],
  [{ status: 'waiting', analysing: 2, refused: 1 }, 'Analysing 2 mixes'],
] satisfies [Partial<ReleaseSummary>, string][])('a release with %p says “%s”', (state, words) => {
  render(<ReleaseRow release={{ ...RELEASE, ...state }} actions={[]} />);
  expect(screen.getByRole('link').textContent).toContain(words);
});
