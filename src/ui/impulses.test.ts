import { LANE_SCHEMA, parseLane } from '../core/lane/schema';
import type { ImpulseResponse } from '../core/stages/definition';
import { Impulses } from './impulses';

const laneWith = (...files: (string | null)[]) =>
  parseLane({
    schema: LANE_SCHEMA,
    stages: files.map((file, i) => ({
      id: `${i}`,
      kind: 'room',
      settings: file === null ? {} : { impulse: 'file', file },
    })),
  });

let asked: string[];
let given: [string, ImpulseResponse][];
let impulses: Impulses;
beforeEach(() => {
  asked = [];
  given = [];
  impulses = new Impulses(48000, (name, response) => given.push([name, response]));
  Object.assign(globalThis, {
    fetch: (address: string) => {
      asked.push(address);
      const known = !address.includes('gone');
      return Promise.resolve(
        new Response(known ? Float32Array.from([1, -1, 0.5, -0.5]).buffer : null, { status: known ? 200 : 404 }),
      );
    },
  });
});

test('what a lane needs is fetched once, at the rate of the mix, and split into its channels', async () => {
  expect(impulses.has(laneWith(null))).toBe(true);
  const lane = laneWith('vault', null, 'vault', 'cellar');
  expect(impulses.has(lane)).toBe(false);
  await impulses.need(lane);
  await impulses.need(lane);
  expect(asked).toEqual(['vault', 'cellar'].map((name) => `/api/impulses/${name}/audio?rate=48000`));
  expect(impulses.has(lane)).toBe(true);
  expect(given.map(([name]) => name)).toEqual(['vault', 'cellar']);
  expect([...impulses.get('vault')!.left]).toEqual([1, 0.5]);
  expect([...impulses.get('vault')!.right]).toEqual([-1, -0.5]);
});

test('everything that is here is given to another taker', async () => {
  await impulses.need(laneWith('vault'));
  const names: string[] = [];
  impulses.giveTo((name) => names.push(name));
  expect(names).toEqual(['vault']);
});

test('what can’t be had is said in words', async () => {
  await expect(impulses.need(laneWith('gone'))).rejects.toThrow(/could not be loaded, so the studio is used instead/);
  expect(impulses.has(laneWith('gone'))).toBe(false);
});
