import { LANE_SCHEMA, parseLane } from '../../core/lane/schema';
import type { ImpulseResponse } from '../../core/stages/definition';
import { Responses } from './responses';

const laneWith = (...files: (string | null)[]) =>
  parseLane({
    schema: LANE_SCHEMA,
    stages: files.map((file, i) => ({
      id: `${i}`,
      kind: 'room',
      settings: file === null ? {} : { response: 'file', file },
    })),
  });

let asked: string[];
let given: [string, ImpulseResponse][];
let responses: Responses;
beforeEach(() => {
  asked = [];
  given = [];
  responses = new Responses(48000, (name, response) => given.push([name, response]));
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

test('what a lane needs is fetched once, at the rate of the mix, and parted into its sides', async () => {
  expect(responses.has(laneWith(null))).toBe(true);
  const lane = laneWith('vault', null, 'vault', 'cellar');
  expect(responses.has(lane)).toBe(false);
  await responses.need(lane);
  await responses.need(lane);
  expect(asked).toEqual(['vault', 'cellar'].map((name) => `/api/responses/${name}/audio?rate=48000`));
  expect(responses.has(lane)).toBe(true);
  expect(given.map(([name]) => name)).toEqual(['vault', 'cellar']);
  expect([...responses.get('vault')!.left]).toEqual([1, 0.5]);
  expect([...responses.get('vault')!.right]).toEqual([-1, -0.5]);
});

test('everything that is here is given to one more who runs lanes', async () => {
  await responses.need(laneWith('vault'));
  const names: string[] = [];
  responses.giveTo((name) => names.push(name));
  expect(names).toEqual(['vault']);
});

test('what cannot be had is said in words', async () => {
  await expect(responses.need(laneWith('gone'))).rejects.toThrow(/could not be fetched; the studio stands in/);
  expect(responses.has(laneWith('gone'))).toBe(false);
});
