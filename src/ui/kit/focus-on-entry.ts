import { useEffect } from 'react';
import { focusOn } from './skip-links';

/** Whether a page was entered in this document before. */
let entered = false;

function comesFromSignIn(): boolean {
  try {
    return new URL(document.referrer).pathname === '/sign-in';
  } catch {
    return false;
  }
}

/**
 * Gives the focus to the content of a page that is entered from another one, with which the focus would be lost. A page that is
 * loaded by itself begins at its top.
 */
export function useFocusOnEntry(): void {
  useEffect(() => {
    const lost = document.activeElement === null || document.activeElement === document.body;
    if ((entered || comesFromSignIn()) && lost) focusOn('main');
    entered = true;
  }, []);
}
