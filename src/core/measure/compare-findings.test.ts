import { compareFindings } from './compare-findings';
import type { Finding } from './findings';

const finding = (title: string, sentence = title): Finding => ({ weight: 'caution', title, sentence, advice: '' });

test('findings are gone, still there in new words, or new', () => {
  const older = [finding('Clipped', '300 runs'), finding('Wide bass'), finding('Mains hum')];
  const newer = [finding('Clipped', '2 runs'), finding('Low level')];
  const { gone, still, added } = compareFindings(older, newer);
  expect(gone.map(({ title }) => title)).toEqual(['Wide bass', 'Mains hum']);
  expect(still).toEqual([{ now: newer[0], before: '300 runs' }]);
  expect(added).toEqual([newer[1]]);
});
