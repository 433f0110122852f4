import { recordedSurface } from '../../../../tests/support/surface';
import { WET_OFF_DB } from '../../../core/stages/room/settings';
import { DAYLIGHT } from '../../theme/palette';
import { drawRoom, envelope } from './draw-room';

/** A response that falls by 60 dB in a second. */
const RATE = 8000;
const falling = Float32Array.from({ length: RATE }, (_, i) => 10 ** ((-3 * i) / RATE));
const room = { levels: envelope({ left: falling, right: falling }), seconds: 1 };

const drawn = (picture: Parameters<typeof drawRoom>[1]) => {
  const surface = recordedSurface(600, 200);
  drawRoom(surface, picture, DAYLIGHT);
  return surface;
};
const area = (surface: ReturnType<typeof drawn>) => surface.paths.find(({ filled }) => filled)!.points;

test('the level of a response falls as its samples do', () => {
  expect(room.levels[0]).toBeCloseTo(0, 1);
  expect(room.levels[150]).toBeCloseTo(-30, 0);
  expect(room.levels.at(-1)).toBeCloseTo(-60, 0);
});

test('the room begins after the direct sound by the pre-delay, and lower by as much as its level', () => {
  const loud = drawn({ room, preDelayMs: 0, wetDb: 0 });
  const direct = loud.boxes.find(({ color }) => color === DAYLIGHT.copper)!;
  expect(area(loud)[0][0]).toBeCloseTo(direct.x + 1.5, 6);
  const late = drawn({ room, preDelayMs: 100, wetDb: -24 });
  expect(area(late)[0][0]).toBeGreaterThan(direct.x + 30);
  expect(area(late)[1][1]).toBeGreaterThan(area(loud)[1][1] + 40);
});

test('says what to do while nothing is heard of it, and that it is on its way', () => {
  expect(drawn({ room, preDelayMs: 0, wetDb: WET_OFF_DB }).words()).toContain('Raise “Wet” to hear the room');
  const waiting = drawn({ room: null, preDelayMs: 0, wetDb: -20 });
  expect(waiting.words()).toContain('Loading the room');
  expect(waiting.paths).toEqual([]);
});
