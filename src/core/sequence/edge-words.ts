import { clock } from '../measure/figure';
import type { Edges, Fade, FadeShape } from './edges';

/** Shapes of a fade, and what each is good for. */
export const FADE_SHAPE_TEXTS: Record<FadeShape, { title: string; help: string }> = {
  linear: { title: 'Linear', help: 'The amplitude moves evenly. Short fades, or across a joint in the same music.' },
  equalPower: {
    title: 'Equal power',
    help: 'Loud for long, then quickly gone. Two of them keep the level across a joint between different pieces.',
  },
  sCurve: { title: 'S-curve', help: 'Eases in and out at both ends: the end of a song, unnoticed.' },
  exponential: {
    title: 'Exponential',
    help: 'The level moves evenly in dB, as a room dies away. Natural for tails; the music is soft early.',
  },
};

const fadeWords = ({ seconds, shape }: Fade, way: string): string[] =>
  seconds > 0
    ? [`fades ${way} over ${Number(seconds.toFixed(3))} s (${FADE_SHAPE_TEXTS[shape].title.toLowerCase()})`]
    : [];

const silenceWords = (seconds: number, where: string): string[] =>
  seconds > 0 ? [`${Number(seconds.toFixed(3))} s of silence ${where}`] : [];

/**
 * Edges as a sentence without its stop.
 *
 * @example
 *   edgeWords(WHOLE_MIX) // 'from 0:00.000 to the end of the mix'
 */
export function edgeWords(edges: Edges): string {
  const { startSeconds, endSeconds } = edges;
  return [
    `from ${clock(startSeconds, 3)} to ${endSeconds === null ? 'the end of the mix' : clock(endSeconds, 3)}`,
    ...fadeWords(edges.fadeIn, 'in'),
    ...fadeWords(edges.fadeOut, 'out'),
    ...silenceWords(edges.silenceBeforeSeconds, 'before'),
    ...silenceWords(edges.silenceAfterSeconds, 'after'),
  ].join(', ');
}
