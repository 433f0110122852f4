/** What the last hand on the page used; a control touched by a pointer keeps the focus, but does not wait for keys. */
let last: 'pointer' | 'keyboard' = 'keyboard';
/** How the element that has the focus came by it. */
let focusedBy: 'pointer' | 'keyboard' = 'keyboard';

if (typeof document !== 'undefined') {
  const options = { capture: true, passive: true };
  document.addEventListener('pointerdown', () => (last = focusedBy = 'pointer'), options);
  document.addEventListener('keydown', () => (last = 'keyboard'), options);
  document.addEventListener('focusin', () => (focusedBy = last), options);
}

/** What its own keys move. */
const MOVED = '[role="slider"], [role="separator"], input[type="range"]';
const TEXT_TYPES = ['text', 'search', 'email', 'password', 'url', 'tel', 'number', 'date', 'time'];

function takesText(element: Element): boolean {
  if (element instanceof HTMLInputElement) return TEXT_TYPES.includes(element.type);
  return element instanceof HTMLTextAreaElement || (element as HTMLElement).isContentEditable === true;
}

/** Keys that move a slider or a handle. */
const SLIDER_KEYS = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Home', 'End', 'PageUp', 'PageDown'];

/**
 * Whether a key pressed while `target` has the focus belongs to it, and not to the page: all of them where text is typed
 * and in an open menu; Space and Enter on what was reached by keyboard, of these Enter alone on a button or link that was
 * pressed with the pointer; arrows on a slider.
 */
export function belongsToFocus({ key, ctrlKey, metaKey }: KeyboardEvent, target: Element | null): boolean {
  if (!target || target === target.ownerDocument.body) return false;
  if (takesText(target) || target.closest('[role="menu"], [role="listbox"]')) return true;
  if (target.matches(MOVED)) return SLIDER_KEYS.includes(key);
  if (ctrlKey || metaKey) return false;
  const presses = key === ' ' || key === 'Enter';
  if (target.matches('[role="switch"], [role="combobox"], input[type="checkbox"]')) {
    const opens = target.matches('[role="combobox"]') && ['ArrowDown', 'ArrowUp'].includes(key);
    return focusedBy === 'keyboard' && (presses || opens);
  }
  if (key === ' ' && focusedBy === 'pointer') return false;
  return presses && target.closest('button, a[href], summary, [role="button"], [role="tab"]') !== null;
}

/** Whether a key was pressed in a dialog. */
export function inDialog(target: Element | null): boolean {
  return target?.closest('[role="dialog"]') != null;
}
