import { create } from 'zustand';

/** Something that was done and can be taken back. */
export interface Done {
  /** What was done, as a sentence without its end. */
  text: string;
  undo: () => void;
}

/** The last thing that was done and can be taken back; one at a time. */
export const useDone = create<{ done: Done | null }>(() => ({ done: null }));

/** Says what was done and offers to take it back. */
export function offerUndo(text: string, undo: () => void): void {
  useDone.setState({ done: { text, undo } });
}
