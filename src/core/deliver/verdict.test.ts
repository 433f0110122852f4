// Limits of EBU R 128, IEC 60908 and common practice for streaming, from memory of the publications.
import { STARTING_DESTINATIONS, type Destination } from './destination';
import { judge, type Measured } from './verdict';

const named = (name: string): Destination => STARTING_DESTINATIONS.find((destination) => destination.name === name)!;
const measured = (part: Partial<Measured>): Measured => ({
  integratedLufs: -14,
  truePeakDbtp: -1,
  sampleRate: 44100,
  depth: null,
  ...part,
});

test('EBU R 128 allows −23.0 LUFS ±0.5 LU', () => {
  const standing = (integratedLufs: number) => judge(named('Broadcast'), measured({ integratedLufs })).standing;
  expect([-23.6, -23.5, -23, -22.5, -22.4].map(standing)).toEqual(['misses', 'meets', 'meets', 'meets', 'misses']);
});

test('what misses is said with its amount and the step that mends it', () => {
  const verdict = judge(named('Broadcast'), measured({ integratedLufs: -13.8 }));
  expect(verdict.standing).toBe('misses');
  expect(verdict.requirements[0].miss).toBe('9.2 LU too loud');
  expect(verdict.levelDb).toBe(-9.2);
  expect(verdict.remedies).toEqual(['Lower by 9.2 dB at delivery: nothing else changes.']);
});

test('raising is offered at delivery only where the true peak has room', () => {
  const [room] = judge(named('Streaming'), measured({ integratedLufs: -20, truePeakDbtp: -9 })).remedies;
  expect(room).toMatch(/Raise by 6.0 dB at delivery/);
  const [none] = judge(named('Streaming'), measured({ integratedLufs: -20, truePeakDbtp: -2 })).remedies;
  expect(none).toMatch(/Raise by 6.0 dB into the limiter: the true peak has room for 1.0 dB only/);
});

test('a true peak over the limit is told with the ceiling that clears it', () => {
  const { standing, remedies } = judge(named('Streaming'), measured({ truePeakDbtp: 0.4 }));
  expect(standing).toBe('misses');
  expect(remedies).toEqual(['Lower the peaks by 1.4 dB: set a limiter’s ceiling to −1.0 dBTP.'.replace('’', "'")]);
});

test('a written file must have the rate and word length asked for', () => {
  const disc = (part: Partial<Measured>) => judge(named('Disc'), measured({ depth: 16, ...part })).standing;
  expect(disc({})).toBe('meets');
  expect(disc({ sampleRate: 48000 })).toBe('misses');
  expect(disc({ depth: 24 })).toBe('misses');
});

test('nothing can be said of what is too short or too quiet', () => {
  expect(judge(named('Streaming'), measured({ integratedLufs: -Infinity })).standing).toBe('unknown');
});
