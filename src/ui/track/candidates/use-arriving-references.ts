import { useEffect } from 'react';
import type { Reference } from '../../../contracts/reference';
import { useEditor, useTrack } from '../context';

/** While a reference is measured the server is asked again after so many ms. */
const AGAIN_MS = 1000;

const underWay = ({ status }: Reference) => status === 'waiting' || status === 'measuring';

/** References that are still measured, followed until they can be used. */
export function useArrivingReferences(): Reference[] {
  const { track } = useEditor();
  const arriving = useTrack((state) => state.details.references).filter(underWay);
  const waiting = arriving.length > 0;
  useEffect(() => {
    if (!waiting) return;
    // What can't be asked now is asked the next time.
    const timer = setInterval(() => void track.refresh().catch(() => {}), AGAIN_MS);
    return () => clearInterval(timer);
  }, [track, waiting]);
  return arriving;
}
