import type { Note } from '../../../contracts/note';
import type { Surface } from '../../kit/use-canvas';
import { TEXT_FACE } from '../../theme/theme';
import type { Palette } from '../../theme/palette';
import { NOTE_TITLES } from '../notes/note-text';
import { AXIS } from './draw-programme';

/** Height in pixels of the strip of a passage, and of the flag above it. */
const STRIP = 3;
const FLAG = 13;

/** Draws a note just above the time axis, `x` being where its time lies: a flag with its initial, and a strip as long as its passage. */
export function drawNote(
  { context, height }: Surface,
  { kind, startSeconds, endSeconds }: Note,
  x: (seconds: number) => number,
  palette: Palette,
): void {
  const from = x(startSeconds);
  const bottom = height - AXIS;
  context.globalAlpha = kind === 'done' ? 0.45 : 1;
  context.fillStyle = palette.ink;
  if (endSeconds !== null) context.fillRect(from, bottom - STRIP, x(endSeconds) - from, STRIP);
  context.fillRect(from - 0.5, bottom - FLAG, 1, FLAG);
  context.fillRect(from, bottom - FLAG, FLAG, FLAG);
  context.fillStyle = palette.paper;
  context.font = `650 11px ${TEXT_FACE}`;
  context.textAlign = 'center';
  context.fillText(NOTE_TITLES[kind][0], from + FLAG / 2, bottom - 2.5);
  context.globalAlpha = 1;
}

/** The note that a time lies on, or at most some seconds beside. */
export function noteNear(notes: readonly Note[], seconds: number, reach: number): Note | undefined {
  return notes.find(
    ({ startSeconds, endSeconds }) =>
      seconds >= startSeconds - reach && seconds <= Math.max(endSeconds ?? 0, startSeconds + 2 * reach),
  );
}
