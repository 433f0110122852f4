import { controlValue } from '../lane/control-path';
import { EMPTY_LANE, MAX_STAGES, newStage, type Lane } from '../lane/schema';
import { changesOf, changeWords, movedPositions, positionsOf, withPositions } from './proposal';
import { withUsualHandles } from './usual-handles';
import { HOUSE_LANES } from './ready-made';

const limited: Lane = { ...EMPTY_LANE, stages: [newStage('compressor', 'c'), newStage('limiter', 'l')] };
const names = (lane: Lane) => lane.house?.handles.map(({ name }) => name);
const kinds = (lane: Lane) => lane.stages.map(({ kind }) => kind);

test('a lane without handles gets the usual ones, whose stages stand before the ceiling', () => {
  const lane = withUsualHandles(limited);
  expect(names(lane)).toEqual(['Loudness', 'Weight', 'Presence', 'Width']);
  expect(kinds(lane)).toEqual(['compressor', 'equalizer', 'stereo', 'limiter']);
  expect(kinds(withUsualHandles(EMPTY_LANE))).toEqual(['equalizer', 'stereo', 'trim']);
});

test('a lane with handles keeps them as they are', () => {
  const { lane } = HOUSE_LANES[0];
  expect(withUsualHandles(lane)).toEqual(lane);
});

test('a full lane gets only handles that need no stage', () => {
  const full: Lane = {
    ...EMPTY_LANE,
    stages: [...Array.from({ length: MAX_STAGES - 1 }, (_, i) => newStage('trim', `t${i}`)), newStage('limiter', 'l')],
  };
  const lane = withUsualHandles(full);
  expect(names(lane)).toEqual(['Loudness']);
  expect(lane.stages).toEqual(full.stages);
});

test('positions move what their handles move, and back at rest the lane is what it was', () => {
  const resting = positionsOf(limited);
  expect(resting).toEqual({ handles: { Loudness: 50, Weight: 50, Presence: 50, Width: 50 }, amountPercent: 100 });
  const moved = withPositions(limited, { ...resting, handles: { ...resting.handles, Loudness: 75, Width: 100 } })!;
  const at = (id: string, control: string) =>
    controlValue(
      moved.stages.find((stage) => stage.id === id)!,
      control,
    );
  expect(at('l', 'inputGainDb')).toBe(controlValue(limited.stages[1], 'inputGainDb')! + 2);
  expect([0, 1, 2, 3, 4].map((band) => at('handles-image', `widthsPercent.${band}`))).toEqual([
    100, 100, 135, 135, 135,
  ]);
  const back = withPositions(moved, resting)!;
  expect(back).toEqual(withUsualHandles(limited));
});

test('handles that a lane does not have are told, whatever they are called', () => {
  expect(withPositions(limited, { handles: { Sparkle: 60 }, amountPercent: 100 })).toBeNull();
  expect(withPositions(limited, { handles: { constructor: 60 }, amountPercent: 100 })).toBeNull();
});

test('changes are told in words; what rests is not', () => {
  const changes = changesOf(limited, { handles: { Loudness: 50, Weight: 62 }, amountPercent: 90 });
  expect(changeWords(changes)).toBe('Weight 50 → 62, Amount 100 → 90');
  expect(changesOf(limited, positionsOf(limited))).toEqual([]);
});

test('what was not moved stays as a lane has it by then', () => {
  const resting = positionsOf(limited);
  const moved = movedPositions(limited, { ...resting, handles: { ...resting.handles, Weight: 62 } });
  expect(moved).toEqual({ handles: { Weight: 62 } });
  const changedMeanwhile = withPositions(limited, { handles: { Loudness: 75 }, amountPercent: 80 })!;
  expect(positionsOf(withPositions(changedMeanwhile, moved)!)).toEqual({
    handles: { ...resting.handles, Loudness: 75, Weight: 62 },
    amountPercent: 80,
  });
});
