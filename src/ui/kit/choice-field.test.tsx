import { fireEvent, render, screen } from '@testing-library/react';
import { ChoiceField } from './choice-field';

test.each([
  [[44_100, 48_000, 96_000], 48_000, 96_000],
  [['FLAC', 'WAV'], 'FLAC', 'WAV'],
])('of %j, %p gives way to %p, in its own type', (values, value, other) => {
  const chosen: unknown[] = [];
  const options = (values as (string | number)[]).map((each) => ({ value: each, title: `${each} chosen` }));
  render(<ChoiceField label="Rate" {...{ value, options }} onChange={(next) => chosen.push(next)} />);
  fireEvent.mouseDown(screen.getByRole('combobox', { name: 'Rate' }));
  fireEvent.click(screen.getByRole('option', { name: `${other} chosen` }));
  expect(chosen).toEqual([other]);
});
