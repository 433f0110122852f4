'use client';

import { createContext, useContext, useSyncExternalStore } from 'react';
import { useStore } from 'zustand';
import type { LiveReadings } from '../../engine/live/protocol';
import { LIVE } from '../../engine/sources/source-mixer';
import type { AuditionState } from './audition';
import type { BlindState } from './blind/blind-session';
import type { CandidateEntry, CandidatesState } from './candidates/candidates';
import type { EncodeChecksState } from './encodes/encode-checks';
import type { LaneState } from './lane-editor';
import type { MeasurementsState } from './measurements';
import type { NotesState } from './notes/notes';
import { mixLength, type MixLength, type OpenTrackState } from './open-track';
import type { SelectionState } from './selection';
import type { TrackEditor } from './track-editor';
import type { TransportState } from './transport';

const EditorContext = createContext<TrackEditor | null>(null);
export const EditorProvider = EditorContext.Provider;

/** The open track. */
export function useEditor(): TrackEditor {
  const editor = useContext(EditorContext);
  if (!editor) throw new Error('There is no open track here.');
  return editor;
}

/** What is known of the track. */
export function useTrack<T>(select: (state: OpenTrackState) => T): T {
  return useStore(useEditor().track.store, select);
}

/** Length in frames and sample rate in Hz of the mix: known before it has arrived. */
export function useMixLength(): MixLength {
  const mix = useTrack((state) => state.details.mix);
  return mixLength(mix);
}

/** The lane of the open version. */
export function useLane<T>(select: (state: LaneState) => T): T {
  return useStore(useEditor().lane.store, select);
}

/** What of the lane is open. */
export function useSelection<T>(select: (state: SelectionState) => T): T {
  return useStore(useEditor().selection.store, select);
}

/** Where in the track is heard. */
export function useTransport<T>(select: (state: TransportState) => T): T {
  return useStore(useEditor().transport.store, select);
}

/** What is heard. */
export function useAudition<T>(select: (state: AuditionState) => T): T {
  return useStore(useEditor().audition.store, select);
}

/** The blind test that is set up or taken. */
export function useBlind<T>(select: (state: BlindState) => T): T {
  return useStore(useEditor().blind.store, select);
}

/** What can be heard. */
export function useCandidates<T>(select: (state: CandidatesState) => T): T {
  return useStore(useEditor().candidates.store, select);
}

const MASTER: CandidateEntry = {
  ...{ id: LIVE, what: { kind: 'edited' }, short: 'Master', full: 'Master of the open version' },
  ...{ share: null, problem: null, level: null },
};

/** The candidate that is heard: until the chosen one is there, the master. */
export function useHeard(): CandidateEntry {
  const heard = useAudition((state) => state.heard);
  return useCandidates(({ entries }) => entries.find(({ id, share }) => id === heard && share === null)) ?? MASTER;
}

/** The notes on the programme. */
export function useNotes<T>(select: (state: NotesState) => T): T {
  return useStore(useEditor().notes.store, select);
}

/** Checks of the saved lane in lossy encodes. */
export function useEncodes<T>(select: (state: EncodeChecksState) => T): T {
  return useStore(useEditor().encodes.store, select);
}

/** What is measured. */
export function useMeasurements<T>(select: (state: MeasurementsState) => T): T {
  return useStore(useEditor().measurements.store, select);
}

/** What the worklet last said, a few times a second: for texts. */
export function useLiveReadings(): LiveReadings | null {
  const { board } = useEditor();
  return useSyncExternalStore(
    board.subscribe,
    () => board.latest,
    () => null,
  );
}
