import { EMPTY_LANE, newStage, type Lane } from '../../core/lane/schema';
import type { Measurement, RenderedMeasurement } from '../../engine/measure/measurement';
import type { MeasuringQueue, MeasuringRequest } from '../../engine/measure/queue';
import { Measurements } from './measurements';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const LANE: Lane = { ...EMPTY_LANE, stages: [newStage('trim', 'a')] };
const OTHER: Lane = { ...EMPTY_LANE, stages: [newStage('limiter', 'b')] };
const KEPT = { joints: [] } as unknown as Measurement;

/** A queue whose one answer is given by hand. */
function queueByHand() {
  const asked: MeasuringRequest[] = [];
  let answer = (_: RenderedMeasurement) => {};
  let refuse = (_: Error) => {};
  const queue = {
    request: (request: MeasuringRequest) => {
      asked.push(request);
      const result = new Promise<RenderedMeasurement>((resolve, reject) => {
        answer = resolve;
        refuse = reject;
      });
      return { result, release: () => {} };
    },
    close: () => {},
  };
  return {
    queue: queue as unknown as MeasuringQueue,
    asked,
    answer: (of: object) => answer(of as RenderedMeasurement),
    refuse: (error: Error) => refuse(error),
  };
}

test('a kept measurement is current at once, and rendering it changes no figure', async () => {
  const measurements = new Measurements();
  const state = () => measurements.store.getState();
  const { queue, asked, answer } = queueByHand();
  measurements.show(LANE, KEPT);
  expect(state()).toMatchObject({ measurement: KEPT, rendered: null, share: null });
  measurements.open(queue);
  measurements.follow(LANE);
  await jest.advanceTimersByTimeAsync(100);
  asked[0].onProgress!(0.5);
  expect(state().share).toBeNull();
  const [left, right] = [new Float32Array(1), new Float32Array(2)];
  answer({ joints: [], left, right });
  await jest.advanceTimersByTimeAsync(1);
  expect(state().measurement).toBe(KEPT);
  expect(state().rendered).toEqual({ left, right });
});

test('a lane that was changed before its mix arrived is not what was kept', async () => {
  const measurements = new Measurements();
  const state = () => measurements.store.getState();
  measurements.show(LANE, KEPT);
  measurements.follow(OTHER);
  expect(state().share).toBe(0);
  measurements.follow(LANE);
  expect(state().share).toBeNull();
  const { queue, asked, answer } = queueByHand();
  measurements.open(queue);
  measurements.follow(OTHER);
  await jest.advanceTimersByTimeAsync(100);
  asked[0].onProgress!(0.5);
  expect(state().share).toBe(0.5);
  const none = new Float32Array(0);
  answer({ joints: [1], left: none, right: none });
  await jest.advanceTimersByTimeAsync(1);
  expect(state().measurement).toMatchObject({ joints: [1] });
  // It found no memory for its samples.
  expect(state()).toMatchObject({ kept: false, rendered: null });
  expect(state().share).toBeNull();
  // Another that comes late is not shown.
  measurements.show(LANE, KEPT);
  expect(state().measurement).not.toBe(KEPT);
});

test('a measurement that fails is tried once more by itself, and then when it is asked for', async () => {
  const measurements = new Measurements();
  const state = () => measurements.store.getState();
  const { queue, asked, answer, refuse } = queueByHand();
  measurements.open(queue);
  measurements.follow(LANE);
  await jest.advanceTimersByTimeAsync(100);
  refuse(new Error('The measurement stopped.'));
  await jest.advanceTimersByTimeAsync(1);
  expect([asked.length, state().problem]).toEqual([2, null]);
  refuse(new TypeError('Cannot read properties of null'));
  await jest.advanceTimersByTimeAsync(100);
  expect(asked).toHaveLength(2);
  // Never in the words of a script.
  expect(state().problem).toMatch(/^Something went wrong on our side/);
  expect(state()).toMatchObject({ share: null });
  measurements.retry();
  expect(state()).toMatchObject({ problem: null, share: 0 });
  answer({ joints: [], left: [], right: [] });
  await jest.advanceTimersByTimeAsync(1);
  expect([asked.length, state().share, state().problem]).toEqual([3, null, null]);
});

test('a failure of what was changed meanwhile says nothing', async () => {
  const measurements = new Measurements();
  const { queue, asked, refuse } = queueByHand();
  measurements.open(queue);
  measurements.follow(LANE);
  await jest.advanceTimersByTimeAsync(100);
  measurements.follow(OTHER);
  refuse(new Error('The measurement stopped.'));
  await jest.advanceTimersByTimeAsync(100);
  expect(asked.map(({ lane }) => lane)).toEqual([LANE, OTHER]);
  expect(measurements.store.getState().problem).toBeNull();
});
