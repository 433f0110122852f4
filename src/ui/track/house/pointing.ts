import { create } from 'zustand';

/** Which handle of the lane takes the controls that are pointed at; null: none. */
export const usePointing = create<{ handle: number | null }>(() => ({ handle: null }));

/** Begins or ends pointing at controls for a handle. */
export function pointFor(handle: number | null): void {
  usePointing.setState({ handle });
}
