import { render, screen } from '@testing-library/react';
import { candidateEntries, editorStub } from '../../../tests/support/editor';
import { OutputMeter } from './output-meter';

// It is drawn on a canvas, which jsdom has not.
jest.mock('../kit/use-canvas', () => ({ useCanvas: () => ({ current: null }) }));

const AUDITION = {
  heard: 'lane',
  difference: false,
  monitor: 'stereo',
  band: null,
  elsewhere: null,
  soloRegion: false,
  hearsRemoved: false,
};

test.each([
  [{}, 'Master'],
  [{ heard: 'mix' }, 'Mix'],
  // It is still being rendered: the master is heard.
  [{ heard: 'without-a' }, 'Master'],
  [{ difference: true }, 'Master; heard: the change'],
  [{ monitor: 'mono' }, 'Master; heard: mono (mid)'],
  [{ soloRegion: true, monitor: 'side' }, 'Master; heard: a region, side'],
  [{ elsewhere: 'phone', band: 0 }, 'Master; heard: phone, below 80 Hz'],
  [{ hearsRemoved: true }, 'Master; heard: what is removed'],
])('%p: the meter says “%s”', (state, caption) => {
  const { inside } = editorStub({ audition: { ...AUDITION, ...state }, candidates: { entries: candidateEntries() } });
  render(<OutputMeter />, { wrapper: inside });
  expect(screen.getByTestId('metered').textContent).toBe(caption);
});
