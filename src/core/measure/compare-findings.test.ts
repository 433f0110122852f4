import { compareFindings } from './compare-findings';
import { findingSchema, type Finding, type FindingKind } from './findings';

const finding = (kind: FindingKind, title: string, sentence = ''): Finding => ({
  ...{ kind, weight: 'caution', title, sentence, advice: '' },
});

test('findings are gone, still there in new words, or new, whatever they are called', () => {
  const older = [finding('clipped', 'Clipped', '300 runs'), finding('wideBass', 'Wide bass'), finding('hum', 'Hum')];
  const newer = [finding('clipped', 'Übersteuert', '2 runs'), finding('lowLevel', 'Low level')];
  const { gone, still, added } = compareFindings(older, newer);
  expect(gone.map(({ kind }) => kind)).toEqual(['wideBass', 'hum']);
  expect(still).toEqual([{ now: newer[0], before: '300 runs' }]);
  expect(added).toEqual([newer[1]]);
});

test('a finding of the form without kinds is told by its title; one that nobody knows is refused', () => {
  const earlier = { weight: 'caution', title: 'Mains hum', sentence: '50 Hz', advice: '' };
  expect(findingSchema.parse(earlier)).toEqual({ ...earlier, kind: 'hum' });
  expect(findingSchema.safeParse({ ...earlier, title: 'Brummen' }).success).toBe(false);
});
