import { render, screen } from '@testing-library/react';
import { editorStub } from '../../../tests/support/editor';
import { OutputMeter } from './output-meter';

// It is drawn on a canvas, which jsdom has not.
jest.mock('../kit/use-canvas', () => ({ useCanvas: () => ({ current: null }) }));

const AUDITION = { heard: 'master', without: null, monitor: 'stereo', soloRegion: false, hearsRemoved: false };

test.each([
  [{}, 'Master'],
  [{ heard: 'compared' }, 'Mix'],
  [{ heard: 'compared', without: 'a' }, 'Lane without a stage'],
  [{ heard: 'difference' }, 'Master; heard: the change'],
  [{ monitor: 'mono' }, 'Master; heard: mono'],
  [{ soloRegion: true, monitor: 'side' }, 'Master; heard: a region, side'],
  [{ hearsRemoved: true }, 'Master; heard: what is removed'],
])('%p: the meter says “%s”', (state, caption) => {
  const { inside } = editorStub({ audition: { ...AUDITION, ...state } });
  render(<OutputMeter />, { wrapper: inside });
  expect(screen.getByTestId('metered').textContent).toBe(caption);
});
