import { render, screen } from '@testing-library/react';
import { editorStub } from '../../../../tests/support/editor';
import { newStage, type Stage } from '../../../core/lane/schema';
import { Stop } from './stop';

Element.prototype.scrollIntoView = () => {};
const TRIM = { ...newStage('trim', 'a'), name: 'Level' } as Stage;
const joints = [{ integratedLufs: -20 }, { integratedLufs: -17.96 }];
const LANE = { version: { lane: { crossovers: { frequenciesHz: [] }, stages: [TRIM] } } };
const shown = (stage: Stage, states: object = {}) => {
  const stub = editorStub({ lane: LANE, selection: { stage: null }, measurements: { joints }, ...states });
  render(<Stop stage={stage} index={0} />, { wrapper: stub.inside });
  return screen.getByRole('button').getAttribute('aria-label');
};
const measured = (share: number | null = null) => ({
  measurements: { measurement: { joints, gainReduction: [null] }, share, problem: null },
});

test('a stop says first what the stage does to the loudness of the whole track, then its main setting', () => {
  expect(shown(TRIM, measured())).toMatch(/^Level, \+2\.0 LU, 0\.0 dB\. /);
});

test('until that is known, and of a stage that is off, it says only the setting', () => {
  expect(shown(TRIM)).toMatch(/^Level, 0\.0 dB\. /);
  document.body.innerHTML = '';
  expect(shown({ ...TRIM, on: false }, measured())).toMatch(/^Level, off\. /);
});

test('what was true before the last change looks old', () => {
  const looks = (share: number | null) => {
    document.body.innerHTML = '';
    shown(TRIM, measured(share));
    return getComputedStyle(screen.getByText('+2.0 LU')).fontStyle === 'italic';
  };
  expect([looks(null), looks(0.4)]).toEqual([false, true]);
});
