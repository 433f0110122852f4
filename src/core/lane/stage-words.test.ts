import { STAGES, type StageKind } from '../stages/registry';
import { newStage, type Stage } from './schema';
import { stageWords } from './stage-words';

test('a limiter reads as its panel does', () => {
  const said = stageWords(newStage('limiter', 'a')).join('\n');
  expect(said).toContain('Ceiling −1.0 dBTP');
  expect(said).toMatch(/Look-ahead \d/);
});

test('each band of an equalizer has a line of its own', () => {
  const stage = newStage('equalizer', 'a');
  const bands = [4500, 120].map((frequencyHz) => ({ shape: 'bell', frequencyHz, gainDb: -2.5, q: 1, on: true }));
  const said = stageWords({ ...stage, settings: { ...stage.settings, bands } } as Stage);
  expect(said.filter((line) => line.startsWith('Band '))).toHaveLength(2);
  expect(said.find((line) => line.startsWith('Band 1: '))).toMatch(/4\.5 kHz.*−2\.5 dB/);
});

test('settings come in the order of the panel, however they were kept', () => {
  const stage = newStage('limiter', 'a');
  const turned = Object.fromEntries(Object.entries(stage.settings).reverse());
  expect(stageWords({ ...stage, settings: turned } as Stage)).toEqual(stageWords(stage));
});

test.each(Object.keys(STAGES) as StageKind[])('nothing of a %s is left as it is saved', (kind) => {
  const said = stageWords(newStage(kind, 'a'));
  expect(said.length).toBeGreaterThan(0);
  for (const line of said) expect(line).not.toMatch(/[{}[\]"]|undefined|NaN|object/);
});
