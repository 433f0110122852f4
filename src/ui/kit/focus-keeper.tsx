'use client';

import { useEffect } from 'react';
import { SKIP_LINKS } from './skip-links';

const FOCUSABLE = 'button:not(:disabled), a[href], input:not(:disabled), select, textarea, [tabindex="0"]';

function focusables(within: ParentNode | null): HTMLElement[] {
  // Skip links are for who comes with the Tab key.
  const fit = (each: HTMLElement) => each.tabIndex >= 0 && !each.closest(`.${SKIP_LINKS}`);
  return within ? [...within.querySelectorAll<HTMLElement>(FOCUSABLE)].filter(fit) : [];
}

/** What comes closest to something that was removed: what followed it, else what stood before it, else what it was in. */
function closestTo({ nextSibling, previousSibling, target }: MutationRecord): HTMLElement | undefined {
  const inside = (node: Node | null) => (node instanceof HTMLElement ? [node, ...focusables(node)] : []);
  const fit = (each: HTMLElement) => each.matches(FOCUSABLE) && each.isConnected;
  const near = inside(nextSibling).find(fit) ?? inside(previousSibling).findLast(fit);
  if (near) return near;
  for (let at = target instanceof HTMLElement ? target : null; at; at = at.parentElement) {
    const [first] = focusables(at);
    if (first) return first;
  }
  return undefined;
}

/** Keeps the focus from falling to the page when what has it is removed: it goes to what stood closest. */
export function useFocusKeeper(): void {
  useEffect(() => {
    let last: HTMLElement | null = null;
    const remember = ({ target }: FocusEvent) => (last = target instanceof HTMLElement ? target : null);
    const observer = new MutationObserver((records) => {
      const lost = last;
      if (!lost || lost.isConnected || document.activeElement !== document.body) return;
      const record = records.find(({ removedNodes }) => [...removedNodes].some((node) => node.contains(lost)));
      if (!record) return;
      // A dialog or a menu that closes gives the focus back itself, a moment later.
      requestAnimationFrame(() => {
        if (document.activeElement === document.body) closestTo(record)?.focus();
      });
    });
    document.addEventListener('focusin', remember);
    observer.observe(document.body, { childList: true, subtree: true });
    return () => {
      document.removeEventListener('focusin', remember);
      observer.disconnect();
    };
  }, []);
}
