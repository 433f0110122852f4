import { fireEvent, render, screen } from '@testing-library/react';
import { STAGES } from '../../../core/stages/registry';
import { BandHandle } from './band-handle';
import type { EqualizerBand } from '../../../core/stages/equalizer/settings';

const [BAND] = STAGES.equalizer.schema.parse({ bands: [{ shape: 'bell' }] }).bands;

/** A handle in the picture; gives what its owner is told. */
function shown(band: Partial<EqualizerBand>) {
  const changes: Partial<EqualizerBand>[] = [];
  const box = { current: document.body as HTMLDivElement };
  const nothing = () => {};
  render(
    <BandHandle
      band={{ ...BAND, ...band }}
      {...{ index: 0, open: true, soundingDb: 0, perDb: 1, range: 12, box }}
      {...{ onOpen: nothing, onRemove: nothing, onCommit: nothing }}
      onChange={(_, part) => changes.push(part)}
    />,
  );
  return { changes, handle: screen.getByRole('slider') };
}

test('the wheel on a handle makes its band narrower and broader, within its range', () => {
  const { changes, handle } = shown({ q: 1 });
  fireEvent.wheel(handle, { deltaY: -100 });
  fireEvent.wheel(handle, { deltaY: 100 });
  expect(changes).toEqual([{ q: 1.1 }, { q: 0.91 }]);
});

test.each([
  [{ q: 30 }, -100, [{ q: 30 }]],
  [{ q: 0.1 }, 100, [{ q: 0.1 }]],
  // A steep pass has no Q.
  [{ shape: 'highPass', slopeDbPerOctave: 24 }, -100, []],
] as const)('a band with %p is held there', (band, deltaY, expected) => {
  const { changes, handle } = shown(band);
  fireEvent.wheel(handle, { deltaY });
  expect(changes).toEqual(expected);
});
