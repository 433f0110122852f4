import { ThemeProvider } from '@mui/material/styles';
import type { ReactNode } from 'react';
import { createStore } from 'zustand/vanilla';
import { theme } from '@/ui/theme/theme';
import type { CandidateEntry } from '@/ui/track/candidates/candidates';
import { EditorProvider } from '@/ui/track/context';
import { LiveBoard } from '@/ui/track/live-board';
import type { TrackEditor } from '@/ui/track/track-editor';

/** The states of an open track's parts, as far as what is shown asks for them. */
export interface EditorStates {
  track?: object;
  transport?: object;
  audition?: object;
  candidates?: object;
  measurements?: object;
  encodes?: object;
  lane?: object;
  selection?: object;
}

/** The mix, the master, and a candidate that is being rendered. */
export function candidateEntries(): CandidateEntry[] {
  const there = { share: null, problem: null, level: null };
  return [
    { ...there, id: 'mix', what: { kind: 'mix', mixId: null }, short: 'Mix', full: 'Mix 1, untouched' },
    { ...there, id: 'lane', what: { kind: 'edited' }, short: 'Master', full: 'Master of the open version' },
    {
      ...there,
      ...{ id: 'without-a', what: { kind: 'without', stage: 'a' }, share: 0.42 },
      ...{ short: 'Without trim', full: 'Master without “Trim”' },
    },
  ];
}

/** An open track without sound: its parts are stores, and what views call besides is kept. */
export function editorStub(states: EditorStates) {
  const calls: string[] = [];
  const part = (name: string, state: object = {}) => {
    const store = createStore(() => state);
    return new Proxy(
      { store },
      {
        get: (_, key) =>
          key === 'store' ? store : (...args: unknown[]) => calls.push(`${name}.${String(key)}(${args.join(', ')})`),
      },
    );
  };
  const editor = {
    board: new LiveBoard(),
    track: part('track', { audio: null, arrived: 0, details: { mix: null }, ...states.track }),
    transport: part('transport', { playing: false, loop: null, ...states.transport }),
    audition: part('audition', states.audition),
    candidates: part('candidates', states.candidates),
    lane: part('lane', states.lane),
    encodes: part('encodes', { checks: [], problem: null, ...states.encodes }),
    selection: part('selection', states.selection),
    measurements: part('measurements', { measurement: null, share: null, problem: null, ...states.measurements }),
  };
  const inside = ({ children }: { children: ReactNode }) => (
    <ThemeProvider theme={theme}>
      <EditorProvider value={editor as unknown as TrackEditor}>{children}</EditorProvider>
    </ThemeProvider>
  );
  return { calls, inside, editor };
}
