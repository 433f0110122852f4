import { render, screen, within } from '@testing-library/react';
import { FindingsList } from './findings-list';

test('each finding says how much it weighs in words, not by colour alone', () => {
  const finding = { title: 'Clipping', sentence: '12 runs of full-scale samples.', advice: 'Ask for another mix.' };
  const note = { title: 'Fades', sentence: 'It fades in.', advice: 'Nothing to do.' };
  render(<FindingsList findings={[{ weight: 'fault', ...finding } as never, { weight: 'note', ...note } as never]} />);
  const [first, second] = within(screen.getByRole('list', { name: 'Findings' })).getAllByRole('listitem');
  expect(within(first).getByLabelText('Fault')).toBeTruthy();
  expect(first.textContent).toBe('Clipping. 12 runs of full-scale samples. Ask for another mix.');
  expect(within(second).getByLabelText('Note')).toBeTruthy();
});

test('without findings it says that the mix is good', () => {
  render(<FindingsList findings={[]} />);
  expect(screen.getByText(/^Good to go/)).toBeTruthy();
  expect(screen.queryByRole('list')).toBeNull();
});
