import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { editorStub } from '../../../../tests/support/editor';
import { READY_MADE } from '../../../core/deliver/ready-made';
import { LANE_SCHEMA, parseLane, type Lane } from '../../../core/lane/schema';
import { useMuted } from './muted';
import { Observations } from './observations';

const lane = parseLane({
  schema: LANE_SCHEMA,
  stages: [
    { id: 'idle', kind: 'trim', settings: {} },
    { id: 'end', kind: 'limiter', settings: { inputGainDb: 9 } },
  ],
});
const joint = { integratedLufs: -12, truePeakDbtp: -1 };
const measurement = {
  joints: [joint, joint, joint],
  gainReduction: [null, Float32Array.of(0.5, 4.5, 0.5)],
  ...{ distortions: [null, null], spectra: [null, null], passageBalance: null },
};
const source = { sampleRate: 48000, durationSeconds: 60 };
const download = READY_MADE.find(({ encodes }) => encodes.length > 0)!;
const [{ codec, kbps, maxDbtp }] = download.encodes;
const checks = [
  {
    ...{ codec, kbps },
    result: { encode: { truePeaksDbtp: [maxDbtp + 0.5, -9], overSeconds: [12] }, clearing: null },
  },
];

function shown(measurements: object, encodes: object = {}) {
  const track = { details: { mix: { source, report: null }, destinations: [{ settings: download }] } };
  const { inside, calls, editor } = editorStub({ track, lane: { version: { lane } }, measurements, encodes });
  const edits: { label: string; lane: Lane }[] = [];
  Object.assign(editor, { openStage: (id: string) => calls.push(`openStage(${id})`) });
  editor.lane = {
    store: editor.lane.store,
    editLane: (label: string, change: (lane: Lane) => Lane) => edits.push({ label, lane: change(lane) }),
  } as never;
  render(<Observations />, { wrapper: inside });
  return { calls, edits };
}

const section = () => within(screen.getByRole('region', { name: 'Observations' }));
beforeEach(() => useMuted.setState({ kinds: [] }));

test('each has its figure, its place and a remedy of one step', () => {
  const { calls, edits } = shown({ measurement });
  expect(section().getByText('2')).toBeTruthy();
  const limiting = within(section().getByRole('listitem', { name: 'Limiter works hard' }));
  expect(limiting.getByText(/takes up to 4\.5 dB/)).toBeTruthy();
  fireEvent.click(limiting.getByRole('button', { name: 'Go to 0:00' }));
  fireEvent.click(limiting.getByRole('button', { name: 'Input gain −1.5 dB' }));
  expect(calls).toEqual(['transport.seek(1024)', 'openStage(end)']);
  expect(edits).toMatchObject([
    { label: 'Input gain −1.5 dB', lane: { stages: [{}, { settings: { inputGainDb: 7.5 } }] } },
  ]);
});

test('a kind can be muted and shown again, and the others stay', () => {
  shown({ measurement });
  fireEvent.click(section().getByRole('button', { name: 'Mute “Stage does nothing”' }));
  expect(section().queryByRole('listitem', { name: 'Stage does nothing' })).toBeNull();
  expect(section().getByRole('listitem', { name: 'Limiter works hard' })).toBeTruthy();
  fireEvent.click(section().getByRole('button', { name: 'Show “Stage does nothing” again' }));
  expect(section().getByRole('listitem', { name: 'Stage does nothing' })).toBeTruthy();
});

test('an encode is held against what the destination asks for', () => {
  const { calls } = shown({ measurement }, { checks });
  const encode = within(section().getByRole('listitem', { name: 'Encode has overs' }));
  expect(encode.getByText(/over its limit of/)).toBeTruthy();
  fireEvent.click(encode.getByRole('button', { name: 'Go to 0:12' }));
  expect(calls).toEqual([`transport.seek(${12 * 48000})`]);
});

test('nothing is claimed while the track is measured, and nothing found is said', () => {
  shown({ measurement, share: 0.4 });
  expect(section().getByText('checking')).toBeTruthy();
  expect(section().queryByRole('listitem')).toBeNull();
  cleanup();
  useMuted.setState({ kinds: ['limiting', 'idle'] });
  shown({ measurement });
  expect(section().getByText('nothing stands out')).toBeTruthy();
});
