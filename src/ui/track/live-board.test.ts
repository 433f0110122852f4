import type { LiveReadings } from '../../engine/live/protocol';
import { HISTORY, LiveBoard } from './live-board';

const readings = (samplePeak: number, truePeak: number, playing = true): LiveReadings => ({
  frame: 0,
  playing,
  joints: [],
  gainReduction: [],
  movements: [],
  bandReductions: [],
  correlations: [],
  bandLevels: [],
  instruments: [],
  tapLead: 0,
  heard: {
    samplePeaksDbfs: [samplePeak, samplePeak - 6],
    truePeaksDbtp: [truePeak, truePeak - 6],
    momentaryLufs: -20,
    shortTermLufs: -20,
    integratedLufs: -20,
  },
  played: { mixLufs: -20, laneLufs: -20 },
});

test('peaks are held for two seconds, each channel by itself, and then fall to what is there', () => {
  const board = new LiveBoard();
  board.push(readings(-2, -1));
  for (let i = 0; i < 59; i++) board.push(readings(-20, -14));
  expect([board.held.sample[0].value, board.held.true[1].value]).toEqual([-2, -7]);
  for (let i = 0; i < 2; i++) board.push(readings(-20, -14));
  expect([board.held.sample[0].value, board.held.true[1].value]).toEqual([-20, -20]);
});

test('a held true peak is never below the sample peak held beside it', () => {
  const board = new LiveBoard();
  board.push(readings(-6, -4));
  // The same sample peak again holds longer than the true peak does.
  for (let i = 0; i < 30; i++) board.push(readings(-20, -14));
  board.push(readings(-6, -5));
  for (let i = 0; i < 40; i++) board.push(readings(-20, -14));
  expect(board.held.sample[0].value).toBe(-6);
  expect(board.held.true[0].value).toBeGreaterThanOrEqual(-6);
});

test('the history keeps what was played, no more than it shows, and texts are told now and then', () => {
  const board = new LiveBoard();
  const told = jest.fn();
  const stop = board.subscribe(told);
  for (let i = 0; i < HISTORY + 50; i++) board.push(readings(-20, -20));
  expect(board.history).toHaveLength(HISTORY);
  expect(told.mock.calls.length).toBeGreaterThan(50);
  expect(told.mock.calls.length).toBeLessThan(HISTORY / 2);
  told.mockClear();
  board.push(readings(-100, -100, false));
  expect(board.history).toHaveLength(HISTORY);
  expect(told).toHaveBeenCalledTimes(1);
  stop();
  board.push(readings(-100, -100, false));
  expect(told).toHaveBeenCalledTimes(1);
});

test('gain reduction is held for a moment, for each stage', () => {
  const board = new LiveBoard();
  const reducing = (gainReduction: number[]) => board.push({ ...readings(-20, -20), gainReduction });
  reducing([0, 2.5]);
  for (let i = 0; i < 20; i++) reducing([0, 0.5]);
  expect(board.reductions.map(({ value }) => value)).toEqual([0, 2.5]);
  for (let i = 0; i < 60; i++) reducing([0, 0.5]);
  expect(board.reductions[1].value).toBe(0.5);
  reducing([1]);
  expect(board.reductions.map(({ value }) => value)).toEqual([1]);
});
