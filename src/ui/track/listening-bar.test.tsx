import { fireEvent, render, screen } from '@testing-library/react';
import { editorStub } from '../../../tests/support/editor';
import { ListeningBar, matchWords } from './listening-bar';

// The meter is drawn on a canvas, which jsdom has not.
jest.mock('./output-meter', () => ({ OutputMeter: () => null }));

const AUDIO = { sampleRate: 44100, left: new Float32Array(441000), right: new Float32Array(441000) };
const audition = (state: object = {}) => ({
  ...{ heard: 'master', without: null, rendering: null, matching: 'loudness', estimated: false, monitor: 'stereo' },
  gainsDb: { compared: 6, master: 0 },
  ...state,
});
const shown = (state: object, track: object = { audio: AUDIO }) => {
  const stub = editorStub({ audition: audition(state), track });
  render(<ListeningBar />, { wrapper: stub.inside });
  return stub;
};
const match = () => screen.getByTestId('level-match').textContent;

test.each([
  [{ compared: 6.02, master: 0 }, 'mix raised 6.0 dB'],
  [{ compared: -1.5, master: 0 }, 'mix lowered 1.5 dB'],
  [{ compared: 0, master: -3 }, 'master lowered 3.0 dB'],
  [{ compared: 0.04, master: 0 }, 'both as they are'],
])('gains %p are “%s”', (gains, words) => {
  expect(matchWords(gains, 'mix')).toBe(words);
});

test('the match says what it rests on: measured, estimated, or still rendering', () => {
  shown({});
  expect(match()).toBe('mix raised 6.0 dB');
  document.body.innerHTML = '';
  shown({ estimated: true, without: 'a' });
  expect(match()).toBe('without raised 6.0 dB (est.)');
  document.body.innerHTML = '';
  shown({ estimated: true, without: 'a', rendering: 0.42 });
  expect(match()).toBe('rendering 42 %');
  expect(screen.getByRole('button', { name: 'Without' })).toBeTruthy();
});

test('before the mix is here it says how much of it is, and nothing can be played', () => {
  const { calls } = shown({}, { audio: null, arrived: 0.37 });
  expect(screen.getByRole('status').textContent).toBe('Loading the mix, 37 %');
  fireEvent.click(screen.getByRole('button', { name: 'Play' }));
  expect(calls).toEqual([]);
});

test('a press on what is heard already changes nothing, one on another switches', () => {
  const { calls } = shown({});
  fireEvent.click(screen.getByRole('button', { name: 'Master' }));
  expect(calls).toEqual([]);
  fireEvent.click(screen.getByRole('button', { name: 'Mix' }));
  fireEvent.click(screen.getByRole('button', { name: 'Change' }));
  expect(calls).toEqual(['audition.listen(compared)', 'audition.listen(difference)']);
});
