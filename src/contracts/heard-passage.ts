/** Length of what is repeated in a blind test, in seconds: short enough to keep in mind. */
const PASSAGE_SECONDS = 15;

interface Streamed {
  /** In what is streamed. */
  startSeconds: number;
  endSeconds: number;
  /** Highest level of each column, in percent of full scale. */
  outline: readonly number[];
}

/** The loudest passage of a track, in seconds of what is streamed: what a blind test on a listening page plays. */
export function heardPassage({ outline, startSeconds, endSeconds }: Streamed): { from: number; to: number } {
  const length = endSeconds - startSeconds;
  const wide = Math.max(1, Math.min(outline.length, Math.round((PASSAGE_SECONDS / length) * outline.length)));
  let [best, most] = [0, -1];
  for (let i = 0; i + wide <= outline.length; i++) {
    const sum = outline.slice(i, i + wide).reduce((all, level) => all + level * level, 0);
    if (sum > most) [best, most] = [i, sum];
  }
  const from = startSeconds + (best / outline.length) * length;
  return { from, to: Math.min(endSeconds, from + PASSAGE_SECONDS) };
}
