'use client';

import { createContext, useContext, useSyncExternalStore } from 'react';
import { useStore } from 'zustand';
import type { LiveReadings } from '../../engine/live/protocol';
import type { WorkspaceSession } from './track-editor';
import type { WorkspaceState } from './track-state';

const SessionContext = createContext<WorkspaceSession | null>(null);
export const SessionProvider = SessionContext.Provider;

/** The open track. */
export function useSession(): WorkspaceSession {
  const session = useContext(SessionContext);
  if (!session) throw new Error('There is no open track here.');
  return session;
}

/** Part of the open track's state. */
export function useWorkspace<T>(select: (state: WorkspaceState) => T): T {
  return useStore(useSession().store, select);
}

/** What the worklet last said, a few times a second: for texts. */
export function useLiveReadings(): LiveReadings | null {
  const { board } = useSession();
  return useSyncExternalStore(
    board.subscribe,
    () => board.latest,
    () => null,
  );
}
