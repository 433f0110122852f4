import { audioFormat, change, clock, count, figure, hertz, megabytes } from './format';

test('figures have a true minus sign and never a negative zero', () => {
  expect([figure(-14.04), figure(-0.04), figure(0), figure(3.25, 2), figure(-Infinity)]).toEqual([
    '−14.0',
    '0.0',
    '0.0',
    '3.25',
    '−∞',
  ]);
});

test('changes of level carry their sign', () => {
  expect([change(2), change(-2), change(0), change(0.04), change(-0.04)]).toEqual([
    '+2.0',
    '−2.0',
    '0.0',
    '0.0',
    '0.0',
  ]);
});

test('clock rounds down, so that a time is never shown before it is reached', () => {
  expect([clock(0), clock(59.99), clock(60), clock(67.46, 1), clock(3599.99, 1), clock(0.1234, 3), clock(-1)]).toEqual([
    ...['0:00', '0:59', '1:00', '1:07.4', '59:59.9', '0:00.123', '0:00'],
  ]);
  // Sums of tenths lie a hair below their value.
  expect(clock(0.1 + 0.2, 1)).toBe('0:00.3');
});

test('frequencies, formats and counts', () => {
  expect([hertz(20), hertz(999.6), hertz(1000), hertz(12500), hertz(3400)]).toEqual([
    '20',
    '1000',
    '1 k',
    '12.5 k',
    '3.4 k',
  ]);
  expect(audioFormat({ sampleRate: 44100, bits: 24 })).toBe('44.1 kHz, 24-bit');
  expect(audioFormat({ sampleRate: 96000, bits: 32, float: true })).toBe('96 kHz, 32-bit float');
  expect([count(1, 'band'), count(0, 'band'), count(2, 'delivery', 'deliveries')]).toEqual([
    '1 band',
    '0 bands',
    '2 deliveries',
  ]);
  expect(megabytes(8_340_000)).toBe('8.3 MB');
});
