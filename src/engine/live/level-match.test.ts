import { levelMatch } from './level-match';

const loudness = (integratedLufs: number, truePeakDbtp: number) => ({ integratedLufs, truePeakDbtp });

test('the quieter one is raised by the difference when its peaks have room', () => {
  expect(levelMatch(loudness(-20, -8), loudness(-14, -1))).toEqual({ mixDb: 6, masterDb: 0 });
  expect(levelMatch(loudness(-14, -1), loudness(-23, -10))).toEqual({ mixDb: 0, masterDb: 9 });
});

test('the louder one is lowered when raising would clip', () => {
  expect(levelMatch(loudness(-20, -3), loudness(-14, -1))).toEqual({ mixDb: 0, masterDb: -6 });
  expect(levelMatch(loudness(-14, -1), loudness(-23, -5))).toEqual({ mixDb: -9, masterDb: 0 });
});

test('nothing is matched while one of the two is unknown', () => {
  expect(levelMatch(loudness(-Infinity, -90), loudness(-14, -1))).toEqual({ mixDb: 0, masterDb: 0 });
});
