import type { Note } from '../../contracts/note';
import { trailSeconds } from '../../contracts/track-time';
import type { LiveBoard } from './live-board';
import type { Notes } from './notes/notes';
import { mixLength, type OpenTrack } from './open-track';
import { zoomed } from './programme/view';
import type { Selection } from './selection';
import type { Transport } from './transport';

/** What one finds one's way in: the track, what is heard of it, and the notes on it. */
interface Ground {
  track: OpenTrack;
  transport: Transport;
  selection: Selection;
  board: LiveBoard;
  notes: Notes;
}

/** Going about in a track: in steps, to the loudest passage, around a loop, from note to note. */
export class Navigation {
  constructor(private readonly on: Ground) {}

  /** Seconds forward or back from what is heard. */
  skip(seconds: number): void {
    const { here, frames } = this.place();
    if (frames > 0) this.on.transport.seek(Math.max(0, Math.min(frames, here + seconds * this.rate)));
  }

  toLoudest(): void {
    const loudest = this.on.track.details.mix?.report?.loudest;
    if (loudest) this.on.transport.seek(loudest.start);
  }

  /** Ends the loop, or loops the loudest passage. */
  toggleLoop(): void {
    const loudest = this.on.track.details.mix?.report?.loudest;
    if (this.on.transport.store.getState().loop) this.on.transport.setLoop(null);
    else if (loudest) this.on.transport.setLoop(loudest);
  }

  /** Starts the loop at what is heard; it ends where it did, or with the track. */
  loopFromHere(): void {
    const { here, frames } = this.place();
    const { loop } = this.on.transport.store.getState();
    const end = loop && loop.end > here ? loop.end : frames;
    if (here < end) this.on.transport.keepLoop({ start: here, end });
  }

  /** Ends the loop at what is heard; it starts where it did, or with the track. */
  loopToHere(): void {
    const { here } = this.place();
    const { loop } = this.on.transport.store.getState();
    const start = loop && loop.start < here ? loop.start : 0;
    if (start < here) this.on.transport.keepLoop({ start, end: here });
  }

  /** Zooms the programme by one step around what is heard: in below 0, out above. */
  zoom(direction: number): void {
    const { here, frames } = this.place();
    const view = this.on.selection.store.getState().view ?? { start: 0, end: frames };
    if (frames > 0) this.on.selection.view(zoomed(view, frames, here, direction));
  }

  /** Where a note would stand now, in seconds of the track: over the loop, else at what is heard. */
  noteSpan(): { startSeconds: number; endSeconds: number | null } {
    const { here } = this.place();
    const { loop } = this.on.transport.store.getState();
    const seconds = (frame: number) => Math.max(0, frame / this.rate - this.trail);
    return loop
      ? { startSeconds: seconds(loop.start), endSeconds: seconds(loop.end) }
      : { startSeconds: seconds(here), endSeconds: null };
  }

  /** Goes to a note; a passage is looped. */
  goToNote(note: Note): void {
    const frame = (seconds: number) => Math.round((seconds + this.trail) * this.rate);
    const start = frame(note.startSeconds);
    if (note.endSeconds !== null) this.on.transport.setLoop({ start, end: frame(note.endSeconds) });
    else this.on.transport.seek(start);
  }

  /** Goes to a second of the track. */
  toSecond(seconds: number): void {
    this.on.transport.seek(Math.max(0, Math.round((seconds + this.trail) * this.rate)));
  }

  /** Goes to the next note, or the one before, without looping it. */
  toNote(direction: 1 | -1): void {
    const note = this.on.notes.next(this.place().here / this.rate - this.trail, direction);
    if (note) this.goToNote({ ...note, endSeconds: null });
  }

  /** Hz */
  private get rate(): number {
    return mixLength(this.on.track.details.mix).sampleRate;
  }

  /** Seconds by which the mix trails the time of the notes. */
  private get trail(): number {
    return trailSeconds(this.on.track.details.mix, this.on.track.details.mixes);
  }

  private place(): { here: number; frames: number } {
    return {
      here: this.on.transport.here(this.on.board.latest?.frame ?? 0),
      frames: this.on.track.store.getState().audio?.left.length ?? 0,
    };
  }
}
