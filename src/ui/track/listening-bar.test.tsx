import { fireEvent, render, screen } from '@testing-library/react';
import { candidateEntries, editorStub } from '../../../tests/support/editor';
import { gainWords } from './candidates/gain-words';
import { ListeningBar } from './listening-bar';

// The meter is drawn on a canvas, which jsdom has not.
jest.mock('./output-meter', () => ({ OutputMeter: () => null }));

const AUDIO = { sampleRate: 44100, left: new Float32Array(441000), right: new Float32Array(441000) };
const AUDITION = {
  ...{ heard: 'lane', other: 'mix', difference: false, matching: 'loudness', playedAs: null, estimated: false },
  ...{ gainsDb: { mix: 6.02, lane: 0 }, monitor: 'stereo', band: null, elsewhere: null },
};
const shown = (state: object, track: object = { audio: AUDIO }) => {
  const stub = editorStub({
    audition: { ...AUDITION, ...state },
    track: { details: { mix: null, destinations: [] }, ...track },
    candidates: { entries: candidateEntries() },
  });
  render(<ListeningBar />, { wrapper: stub.inside });
  return stub;
};
const match = () => screen.getByTestId('level-match').textContent;

test.each([
  [6.02, 'raised 6.0 dB'],
  [-1.5, 'lowered 1.5 dB'],
  [0.04, 'as it is'],
  [undefined, 'level not known yet'],
])('a gain of %p dB is “%s”', (gainDb, words) => {
  expect(gainWords(gainDb)).toBe(words);
});

test.each([
  [{}, 'master as it is'],
  [{ heard: 'mix' }, 'mix raised 6.0 dB'],
  [{ heard: 'mix', estimated: true }, 'mix raised 6.0 dB (est.)'],
  [{ heard: 'without-a' }, '42 % ready'],
])('%p: the match of what is heard is “%s”', (state, words) => {
  shown(state);
  expect(match()).toBe(words);
});

test('before the mix is here it says how much of it is, and nothing can be played', () => {
  const { calls } = shown({}, { audio: null, arrived: 0.37 });
  expect(screen.getByRole('status').textContent).toBe('Loading the mix, 37 %');
  fireEvent.click(screen.getByRole('button', { name: 'Play' }));
  expect(calls).toEqual([]);
});

test('each candidate has its number, and says its gain or how far it is', () => {
  const { calls } = shown({});
  const chip = (name: string) => screen.getByRole('button', { name });
  expect(chip('2 Master').getAttribute('aria-pressed')).toBe('true');
  expect(chip('1 Mix').getAttribute('aria-description')).toBe('raised 6.0 dB');
  expect(chip('3 Without trim').getAttribute('aria-description')).toBe('42 % ready');
  fireEvent.click(chip('1 Mix'));
  fireEvent.click(chip('Change'));
  expect(calls).toEqual(['audition.listen(mix)', 'audition.hearDifference(true)']);
});
