import { render, screen, within } from '@testing-library/react';
import { editorStub } from '../../../tests/support/editor';
import { READY_MADE } from '../../core/deliver/ready-made';
import { EMPTY_LANE } from '../../core/lane/schema';
import { Destinations } from './destinations';

const destinations = READY_MADE.slice(0, 3).map((settings, i) => ({ id: String(i), settings, newer: null }));
const details = { destinations, deliveries: [], adjustments: [], mix: { source: { sampleRate: 44100 }, report: null } };
const shown = (measurements: object, more: object = {}) => {
  const lane = { version: { id: 'v', step: 3, lane: EMPTY_LANE } };
  const { inside } = editorStub({ track: { details: { ...details, ...more } }, lane, measurements });
  render(<Destinations />, { wrapper: inside });
};
const master = { integratedLufs: -9, truePeakDbtp: 0.3 };
const state = () => screen.getByTestId('measuring-state').textContent;

test('each state of the measurement has words', () => {
  shown({});
  expect(state()).toBe('waiting for the mix');
  document.body.innerHTML = '';
  shown({ share: 0.434 });
  expect(state()).toBe('checking… 43 %');
  document.body.innerHTML = '';
  shown({ measurement: { master, joints: [] } });
  expect(state()).toBe('whole track checked');
  document.body.innerHTML = '';
  shown({ problem: 'The browser stopped the measurement.' });
  expect(state()).toBe('measurement failed');
  expect(screen.getByText('The browser stopped the measurement.')).toBeTruthy();
});

test('a master that is too loud misses in words, with what to do; before that, nothing is claimed', () => {
  const [{ settings }] = destinations;
  shown({});
  const before = within(screen.getByRole('article', { name: settings.name }));
  expect(before.getByText('not known yet')).toBeTruthy();
  document.body.innerHTML = '';
  shown({ measurement: { master, joints: [] } });
  const card = within(screen.getByRole('article', { name: settings.name }));
  expect(card.queryByText('meets')).toBeNull();
  expect(card.getByText(/^True peak/).parentElement!.textContent).toContain('0.3');
});

test('the verdict is that of the level which the version has for the destination', () => {
  const loud = { measurement: { master: { integratedLufs: -9, truePeakDbtp: -1 }, joints: [] } };
  const lowered = { levelDb: -5, driveDb: 1.5, versionId: 'v', destinationId: '0', step: 3 };
  const card = () => within(screen.getByRole('article', { name: destinations[0].settings.name }));
  shown(loud, { adjustments: [{ ...lowered, versionId: 'another' }] });
  expect(card().queryByText('meets')).toBeNull();
  expect(card().queryByText(/^Level/)).toBeNull();
  document.body.innerHTML = '';
  shown(loud, { adjustments: [lowered] });
  expect(card().getByText('Level −5.0 dB, drive +1.5 dB')).toBeTruthy();
  expect(card().getByText('−14.0 LUFS')).toBeTruthy();
  expect(card().queryByText('set for an earlier lane')).toBeNull();
  document.body.innerHTML = '';
  shown(loud, { adjustments: [{ ...lowered, step: 2 }] });
  expect(card().getByText('set for an earlier lane')).toBeTruthy();
});

test('deliveries stand with their day and time and how they ended; the newest four only', () => {
  const delivery = (id: number, rest: object) => ({
    ...{ id: String(id), destination: destinations[0].settings, createdAt: `2026-03-0${id}T12:00:00Z`, receipt: null },
    ...rest,
  });
  shown(
    {},
    {
      deliveries: [
        delivery(5, { status: 'rendering', progress: 0.5 }),
        delivery(4, { status: 'failed' }),
        delivery(3, { status: 'done', receipt: { verdict: { standing: 'meets' } } }),
        delivery(2, { status: 'waiting' }),
        delivery(1, { status: 'waiting' }),
      ],
    },
  );
  const links = within(screen.getByRole('region', { name: 'Deliveries of this track' })).getAllByRole('link');
  expect(links.map(({ textContent }) => textContent)).toEqual([
    'Streaming5 Mar 2026, 12:0050 %',
    'Streaming4 Mar 2026, 12:00failed',
    'Streaming3 Mar 2026, 12:00meets',
    'Streaming2 Mar 2026, 12:00waiting',
  ]);
});
