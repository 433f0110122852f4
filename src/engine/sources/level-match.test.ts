import fc from 'fast-check';
import { matchGains, normalisationGains, type SourceLevel } from './level-match';

const source = (integratedLufs: number, truePeakDbtp: number): SourceLevel => ({ integratedLufs, truePeakDbtp });

test('the quieter one is raised by the difference when its peaks have room', () => {
  expect(matchGains({ mix: source(-20, -8), lane: source(-14, -1) }, 'loudness')).toEqual({ mix: 6, lane: 0 });
  expect(matchGains({ mix: source(-14, -1), lane: source(-23, -10) }, 'loudness')).toEqual({ mix: 0, lane: 9 });
});

test('the louder one comes down as far as raising the other would clip', () => {
  expect(matchGains({ mix: source(-20, -3), lane: source(-14, -1) }, 'loudness')).toEqual({ mix: 3, lane: -3 });
  expect(matchGains({ mix: source(-14, -1), lane: source(-23, -5) }, 'loudness')).toEqual({ mix: -4, lane: 5 });
  // One that is over full scale already is not raised at all.
  expect(matchGains({ mix: source(-20, 0.5), lane: source(-14, -1) }, 'loudness')).toEqual({ mix: 0, lane: -6 });
});

test('by true peak, or not at all', () => {
  const levels = { mix: source(-20, -7), lane: source(-14, -1) };
  expect(matchGains(levels, 'truePeak')).toEqual({ mix: 6, lane: 0 });
  expect(matchGains({ ...levels, lane: source(-10, 0.5) }, 'truePeak')).toEqual({ mix: 7, lane: -0.5 });
  expect(matchGains(levels, 'none')).toEqual({ mix: 0, lane: 0 });
});

test('one whose level is not known counts for nothing', () => {
  const levels = { mix: source(-Infinity, -90), lane: source(-14, -1), other: source(-12, -1) };
  expect(matchGains(levels, 'loudness')).toEqual({ mix: 0, lane: 1, other: -1 });
});

test('normalisation turns down, and up only as far as the true peak has room (AES TD1008)', () => {
  const levels = {
    loud: source(-9, -0.2),
    roomy: source(-20, -9),
    tight: source(-20, -3),
    silent: source(-Infinity, -90),
  };
  expect(normalisationGains(levels, { targetLufs: -14, maxTruePeakDbtp: -1 })).toEqual({
    ...{ loud: -5, roomy: 6, tight: 2, silent: 0 },
  });
});

test('whatever the sources, all end at one level and none is raised over full scale', () => {
  const any = fc.record({
    integratedLufs: fc.double({ min: -40, max: -4, noNaN: true }),
    truePeakDbtp: fc.double({ min: -20, max: 3, noNaN: true }),
  });
  fc.assert(
    fc.property(fc.array(any, { minLength: 2, maxLength: 9 }), fc.constantFrom('loudness', 'truePeak'), (list, by) => {
      const gains = matchGains(Object.fromEntries(list.map((each, i) => [`s${i}`, each])), by);
      const levels = list.map(
        (each, i) => (by === 'loudness' ? each.integratedLufs : each.truePeakDbtp) + gains[`s${i}`],
      );
      expect(Math.max(...levels) - Math.min(...levels)).toBeLessThan(1e-9);
      list.forEach(({ truePeakDbtp }, i) => {
        if (gains[`s${i}`] > 0) expect(truePeakDbtp + gains[`s${i}`]).toBeLessThanOrEqual(1e-9);
      });
    }),
  );
});
