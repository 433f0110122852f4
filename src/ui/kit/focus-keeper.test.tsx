import { act, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { useFocusKeeper } from './focus-keeper';

function List() {
  useFocusKeeper();
  const [items, setItems] = useState(['one', 'two', 'three']);
  return (
    <main>
      <button>Before</button>
      <ul>
        {items.map((item) => (
          <li key={item}>
            <button onClick={() => setItems(items.filter((each) => each !== item))}>{item}</button>
          </li>
        ))}
      </ul>
    </main>
  );
}

const focused = () => document.activeElement?.textContent;
/** Presses a button that removes itself, and waits until the page was drawn again. */
async function remove(name: string) {
  const button = screen.getByRole('button', { name });
  act(() => button.focus());
  fireEvent.click(button);
  await act(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))));
}

test('what is removed leaves the focus to what followed it, else what stood before it, else what is nearest', async () => {
  render(<List />);
  await remove('two');
  expect(focused()).toBe('three');
  await remove('three');
  expect(focused()).toBe('one');
  await remove('one');
  expect(focused()).toBe('Before');
});

test('a focus that has gone elsewhere meanwhile is left alone', async () => {
  render(<List />);
  const button = screen.getByRole('button', { name: 'one' });
  act(() => button.focus());
  fireEvent.click(button);
  act(() => screen.getByRole('button', { name: 'three' }).focus());
  await act(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))));
  expect(focused()).toBe('three');
});
