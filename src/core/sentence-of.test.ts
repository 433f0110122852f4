import { z } from 'zod';
import { sentenceOf } from './sentence-of';

const thrown = (work: () => unknown): unknown => {
  try {
    return work();
  } catch (error) {
    return error;
  }
};
class Refused extends Error {}

test('what was thrown for a person is said, whatever its class', () => {
  expect(sentenceOf(new Error('The mix is still loading.'))).toBe('The mix is still loading.');
  expect(sentenceOf(new Refused('The name is taken.'))).toBe('The name is taken.');
});

test.each([
  ['a fault of a script', () => (null as unknown as { type: string }).type],
  ['a parser', () => JSON.parse('{') as unknown],
  ['a schema', () => z.number().parse('x')],
  ['WebAssembly', () => new WebAssembly.Module(new Uint8Array([1]))],
  ['a browser', () => structuredClone(() => 0)],
  ['no error at all', () => 'text'],
  ['an error without a text', () => new Error('')],
])('the words of %s are never shown', (_, work) => {
  expect(sentenceOf(thrown(work), 'Try again.')).toBe('Try again.');
  expect(sentenceOf(thrown(work))).toMatch(/^Something went wrong on our side/);
});
