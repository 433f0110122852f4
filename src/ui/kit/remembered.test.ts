import { z } from 'zod';
import { remembered } from './remembered';

const schema = z.object({ tilt: z.number().default(3), shown: z.boolean().catch(true) });
let kept: Map<string, string>;
beforeEach(() => {
  kept = new Map();
  Object.assign(globalThis, {
    localStorage: {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => kept.set(key, value),
    },
  });
});

test('a choice begins with its defaults and is kept', () => {
  const choice = remembered('test', schema);
  expect(choice.getState()).toEqual({ tilt: 3, shown: true });
  choice.setState({ tilt: 4.5 });
  expect(remembered('test', schema).getState()).toEqual({ tilt: 4.5, shown: true });
  expect(remembered('another', schema).getState().tilt).toBe(3);
});

test.each(['not JSON', '{"tilt":"steep"}', '7'])('what is stored as %s falls back to the defaults', (text) => {
  kept.set('copper-lane-test', text);
  expect(remembered('test', schema).getState()).toEqual({ tilt: 3, shown: true });
});
