import { decibels } from '../../../core/signal/decibels';
import type { ImpulseResponse } from '../../../core/stages/definition';
import { WET_OFF_DB } from '../../../core/stages/room/settings';
import { drawLevelAxis } from '../../kit/axes';
import { figure } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

const FLOOR_DB = -96;
const LINES = [0, -24, -48, -72];
const COLUMNS = 300;

/** Peak in dB of each of {@link COLUMNS} parts of a response. */
export function envelope({ left, right }: ImpulseResponse): number[] {
  const per = left.length / COLUMNS;
  return Array.from({ length: COLUMNS }, (_, column) => {
    let most = 1e-9;
    for (let i = Math.floor(column * per); i < Math.min(left.length, (column + 1) * per); i++)
      most = Math.max(most, Math.abs(left[i]), Math.abs(right[i]));
    return decibels(most);
  });
}

/** A room as it is drawn. */
export interface RoomPicture {
  /** Level of each part in dB, and how long it lasts; null while its impulse response is on its way. */
  room: { levels: readonly number[]; seconds: number } | null;
  preDelayMs: number;
  wetDb: number;
}

/** The dry sound as a line, and after the pre-delay the room as it decays. */
export function drawRoom(surface: Surface, { room, preDelayMs, wetDb }: RoomPicture, palette: Palette): void {
  const { context, width, height } = surface;
  const right = width - 44;
  const bottom = height - 22;
  const y = (db: number) => 12 + (Math.max(FLOOR_DB, db) / FLOOR_DB) * (bottom - 12);
  const seconds = Math.max(0.6, (room?.seconds ?? 0) + preDelayMs / 1000 + 0.05);
  const x = (second: number) => 20 + ((second + 0.02) / (seconds + 0.02)) * (right - 20);
  drawLevelAxis(surface, palette, LINES, y, { left: 20, right, figures: 'right' });
  context.textAlign = 'center';
  const step = seconds > 3 ? 1 : seconds > 1.2 ? 0.5 : 0.1;
  for (let second = 0; second < seconds; second += step)
    context.fillText(`${figure(second, step < 1 ? 1 : 0)} s`, x(second), height - 6);
  context.fillStyle = palette.copper;
  context.fillRect(x(0) - 1.5, y(0), 3, bottom - y(0));
  if (!room || wetDb <= WET_OFF_DB) {
    context.fillStyle = palette.quiet;
    context.fillText(room ? 'Raise “Wet” to hear the room' : 'Loading the room', width / 2, height / 2);
  }
  if (!room) return;
  context.beginPath();
  context.moveTo(x(preDelayMs / 1000), bottom);
  room.levels.forEach((db, i) => context.lineTo(x(preDelayMs / 1000 + (i / COLUMNS) * room.seconds), y(db + wetDb)));
  context.lineTo(x(preDelayMs / 1000 + room.seconds), bottom);
  context.globalAlpha = wetDb <= WET_OFF_DB ? 0.15 : 0.5;
  context.fillStyle = palette.patina;
  context.fill();
  context.globalAlpha = 1;
}
