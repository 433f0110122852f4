import { act, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import type { Quantity } from '../../core/stages/setting';
import { QuantityControl } from './quantity-control';

const GAIN: Quantity = { title: 'Gain', unit: 'dB', min: -24, max: 24, step: 0.1, default: 0, help: 'Level.' };
const FREQUENCY: Quantity = {
  ...{ title: 'Frequency', unit: 'Hz', min: 20, max: 20000, step: 1, default: 1000, help: 'Where.' },
  scale: 'logarithmic',
};

/** A control that keeps its value; gives what was told to its owner. */
function shown(quantity: Quantity, from: number, disabled = false) {
  const changes: number[] = [];
  const commit = jest.fn();
  let kept: number[] = [];
  function Kept() {
    const [value, setValue] = useState(from);
    const [values, setPins] = useState<number[]>([]);
    kept = values;
    const onChange = (next: number) => {
      changes.push(next);
      setValue(next);
    };
    const pins = { values, onChange: setPins };
    return <QuantityControl {...{ quantity, value, onChange, disabled, pins }} onCommit={commit} />;
  }
  render(<Kept />);
  const slider = screen.getByRole('slider', { name: quantity.title });
  const field = screen.getByRole<HTMLInputElement>('textbox', { name: `${quantity.title} value` });
  const type = (text: string, end = 'Enter') => {
    act(() => field.focus());
    fireEvent.change(field, { target: { value: text } });
    fireEvent.keyDown(field, { key: end });
  };
  return { slider, field, type, changes, commit, pins: () => kept };
}

test.each([
  ['-3.5', -3.5],
  ['−3,5', -3.5],
  [' 6 ', 6],
  ['99', 24],
  ['-99', -24],
  ['1.26', 1.3],
])('typing “%s” sets %p', (text, value) => {
  const { field, type, changes, commit } = shown(GAIN, 0);
  type(text);
  expect(changes).toEqual([value]);
  expect(commit).toHaveBeenCalled();
  expect(field.value.replace('−', '-')).toBe(value.toFixed(1));
});

test.each([
  ['loud', 'Enter'],
  ['', 'Enter'],
])(
  '“%s” can’t be understood: the text stays to be corrected, with a sentence; left alone, the value does',
  (text, end) => {
    const { field, type, changes } = shown(GAIN, -2);
    type(text, end);
    expect(document.activeElement).toBe(field);
    expect(field.value).toBe(text);
    expect(field.getAttribute('aria-invalid')).toBe('true');
    const sentence = `“${text}” is not a value for Gain. Type −3.5 or +4 dB.`;
    expect(screen.getByRole('status').textContent).toBe(sentence);
    act(() => field.blur());
    expect(changes).toEqual([]);
    expect(field.value).toBe('−2.0');
    expect(screen.getByRole('status').textContent).toBe(sentence);
  },
);

test('Escape keeps the value; after it and after Enter the focus is on the slider, where the keys of the page work', () => {
  const { field, slider, type, changes, commit } = shown(GAIN, -2);
  type('5', 'Escape');
  expect(document.activeElement).toBe(slider);
  expect(changes).toEqual([]);
  expect(commit).not.toHaveBeenCalled();
  type('+4 dB');
  expect(document.activeElement).toBe(slider);
  expect(changes).toEqual([4]);
  expect(field.value).toBe('4.0');
});

test('a value outside the range is held, and a sentence says so until the next move', () => {
  const { slider, type, changes } = shown(GAIN, 0);
  type('99');
  expect(screen.getByRole('status').textContent).toBe('Gain goes from −24.0 dB to 24.0 dB.');
  fireEvent.keyDown(slider, { key: 'ArrowLeft' });
  expect(changes).toEqual([24, 23.5]);
  expect(screen.getByRole('status').textContent).toBe('');
});

test('the slider tells value and range in its own unit', () => {
  const { slider } = shown(FREQUENCY, 1000);
  expect(['now', 'min', 'max', 'text'].map((part) => slider.getAttribute(`aria-value${part}`))).toEqual([
    '1000',
    '20',
    '20000',
    '1000 Hz',
  ]);
});

test('Backspace brings the default back, and pins are set, visited and removed by key', () => {
  const { slider, changes, pins } = shown(GAIN, 3);
  fireEvent.keyDown(slider, { key: 'Enter' });
  fireEvent.keyDown(slider, { key: 'Backspace' });
  fireEvent.keyDown(slider, { key: 'Enter' });
  expect(pins()).toEqual([3, 0]);
  fireEvent.keyDown(slider, { key: 'ArrowRight', ctrlKey: true });
  fireEvent.keyDown(slider, { key: 'ArrowRight', ctrlKey: true });
  expect(changes).toEqual([0, 3]);
  fireEvent.keyDown(slider, { key: 'Delete' });
  expect(pins()).toEqual([0]);
});

test('keys step by value: five steps, one with Shift, more by page; a frequency moves by ratios', () => {
  const gain = shown(GAIN, 0);
  fireEvent.keyDown(gain.slider, { key: 'ArrowRight' });
  fireEvent.keyDown(gain.slider, { key: 'ArrowDown', shiftKey: true });
  fireEvent.keyDown(gain.slider, { key: 'PageUp' });
  expect(gain.changes).toEqual([0.5, 0.4, 2.4]);
  const frequency = shown(FREQUENCY, 1000);
  fireEvent.keyDown(frequency.slider, { key: 'ArrowUp' });
  expect(frequency.changes).toEqual([1051]);
  // Low down, where a ratio is less than a step, a step is taken.
  const low = shown({ ...FREQUENCY, title: 'Low' }, 20);
  fireEvent.keyDown(low.slider, { key: 'ArrowUp', shiftKey: true });
  expect(low.changes).toEqual([21]);
});

test('a double-click brings the default back, and the slider says its value with the unit', () => {
  const { slider, changes } = shown(GAIN, 7);
  expect(slider.getAttribute('aria-valuetext')).toBe('7.0 dB');
  fireEvent.doubleClick(slider);
  expect(changes).toEqual([0]);
});

test('a disabled control takes nothing', () => {
  const { field, slider } = shown(GAIN, 7, true);
  expect(field.disabled).toBe(true);
  expect((slider as HTMLInputElement).disabled).toBe(true);
});
