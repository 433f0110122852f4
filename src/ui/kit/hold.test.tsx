import { fireEvent } from '@testing-library/react';
import { gesture, onRelease } from './hold';

const press = (pointerId: number) => fireEvent(document.body, pointer('pointerdown', pointerId));
const lift = (pointerId: number, name = 'pointerup') => fireEvent(document.body, pointer(name, pointerId));
/** jsdom has no pointer events of its own. */
const pointer = (name: string, pointerId: number) => Object.assign(new Event(name, { bubbles: true }), { pointerId });

test('a gesture lasts from the first press to the last release, and each has a number of its own', () => {
  expect(gesture()).toBeNull();
  press(1);
  const first = gesture();
  press(2);
  lift(1);
  expect(gesture()).toBe(first);
  lift(2, 'pointercancel');
  expect(gesture()).toBeNull();
  press(1);
  expect(gesture()).not.toBe(first);
  fireEvent(window, new Event('blur'));
  expect(gesture()).toBeNull();
});

test('who waits for the release is told once, or at once when nothing is held', () => {
  const tell = jest.fn();
  onRelease(tell);
  expect(tell).toHaveBeenCalledTimes(1);
  press(1);
  onRelease(tell);
  onRelease(tell);
  expect(tell).toHaveBeenCalledTimes(1);
  lift(1);
  press(1);
  lift(1);
  expect(tell).toHaveBeenCalledTimes(2);
});
