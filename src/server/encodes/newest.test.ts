import { Newest } from './newest';

test('a newer request of an account ends its older one, and nobody else’s', () => {
  const newest = new Newest(2);
  const first = newest.begin('one');
  const other = newest.begin('two');
  const second = newest.begin('one');
  expect([first, other, second].map(({ signal }) => signal.aborted)).toEqual([true, false, false]);
  // The older one ends late, and takes nothing from the newer.
  newest.end('one', first);
  expect(() => newest.begin('three')).toThrow('encoding other passages');
  newest.end('two', other);
  expect(newest.begin('three').signal.aborted).toBe(false);
  const third = newest.begin('one');
  expect([second.signal.aborted, third.signal.aborted]).toEqual([true, false]);
});
