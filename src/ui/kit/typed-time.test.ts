import { typedTime } from './typed-time';

test.each([
  ['1:23.456', 83.456],
  ['83,456', 83.456],
  ['83.456 s', 83.456],
  ['0:00', 0],
  ['0', 0],
  ['12:05.', 725],
  ['1:60', null],
  ['-1', null],
  ['1:2:3', null],
  ['', null],
  ['soon', null],
])('“%s” is %p seconds', (text, seconds) => {
  expect(typedTime(text)).toBe(seconds);
});
