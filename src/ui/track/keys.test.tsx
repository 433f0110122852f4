import { act, fireEvent, render, screen } from '@testing-library/react';
import { readFileSync } from 'node:fs';
import { EditorProvider } from './context';
import { KEYS, keysAsMarkdown, type Key, type KeyName } from './key-table';
import { useKeys } from './keys';
import type { TrackEditor } from './track-editor';

/** A page with one of everything that can have the focus, and an editor that notes what it is told. */
function page() {
  const calls: string[] = [];
  const note = (name: string) => (): void => void calls.push(name);
  const stages = [1, 2, 3, 4, 5, 6, 7, 8, 9].map((id) => ({ id: `stage ${id}`, on: true }));
  /** Anything that is not given is a function that is noted. */
  const noting = (given: object): object =>
    new Proxy(given, { get: (_, name: string) => (given as Record<string, unknown>)[name] ?? note(name) });
  const part = (state: object) => noting({ store: { getState: () => state } });
  const editor = noting({
    lane: noting({ lane: { stages }, stage: (id: string) => stages.find((each) => each.id === id) }),
    selection: part({ stage: 'stage 2', sweeping: false }),
    transport: part({}),
    audition: part({ heard: 'lane', monitor: 'stereo', band: null, difference: false }),
    track: part({ audio: {} }),
    navigation: noting({}),
    blind: noting({}),
  }) as TrackEditor;
  function Page() {
    useKeys({
      showNotes: note('showNotes'),
      toggleInstruments: note('toggleInstruments'),
      showBetweenSamples: note('showBetweenSamples'),
      showEdges: note('showEdges'),
      showKeys: note('showKeys'),
      toggleFigures: note('toggleFigures'),
      deliver: note('deliver'),
    });
    return (
      <>
        <button>Button</button>
        <input type="checkbox" role="switch" aria-label="Switch" />
        <div role="combobox" tabIndex={0} aria-label="List" />
        <input type="range" aria-label="Slider" />
        <input type="text" aria-label="Text" />
        <ul role="menu">
          <li role="menuitem" tabIndex={0}>
            Item
          </li>
        </ul>
        <div role="dialog">
          <button>In a dialog</button>
        </div>
      </>
    );
  }
  render(
    <EditorProvider value={editor}>
      <Page />
    </EditorProvider>,
  );
  return calls;
}

const CODES: Record<string, string> = { ' ': 'Space', '?': 'Slash', '+': 'Equal', '=': 'Equal', '-': 'Minus' };

/** Presses a combination of the table on whatever has the focus, as a keyboard would. */
function press(combination: string) {
  const parts = combination.split(' ');
  const name = parts.at(-1)!;
  const key =
    { space: ' ', arrowleft: 'ArrowLeft', arrowright: 'ArrowRight', home: 'Home', enter: 'Enter' }[name] ?? name;
  const code = CODES[key] ?? (/^[a-z]$/.test(key) ? `Key${key.toUpperCase()}` : /^\d$/.test(key) ? `Digit${key}` : key);
  const target = document.activeElement ?? document.body;
  // With Shift a digit prints something else.
  const options = {
    key: parts.includes('shift') && /^\d$/.test(key) ? '!' : key,
    code,
    shiftKey: parts.includes('shift'),
    ctrlKey: parts.includes('mod'),
  };
  fireEvent.keyDown(target, options);
  fireEvent.keyUp(target, options);
}

const focus = (role: string, name: string, by: 'pointer' | 'keyboard') =>
  act(() => {
    const element = screen.getByRole(role, { name });
    if (by === 'pointer') fireEvent.pointerDown(element);
    else fireEvent.keyDown(document.body, { key: 'Tab', code: 'Tab' });
    element.focus();
  });

const pressed = (Object.entries(KEYS) as [KeyName, Key][]).flatMap(([name, { combinations }]) =>
  combinations.map((combination) => ({ name, combination })),
);

/** What the editor is told by each key. */
const TOLD: Partial<Record<KeyName, string>> = {
  ...{ play: 'togglePlay', candidate: 'listenTo', other: 'toggle', change: 'hearDifference' },
  ...{ without: 'hearWithout', mono: 'setMonitor', band: 'soloBand', normal: 'listenNormally' },
  ...{
    blind: 'show',
    solo: 'hearRegion',
    back: 'skip',
    forward: 'skip',
    start: 'seek',
    loudest: 'toLoudest',
    loop: 'toggleLoop',
  },
  ...{
    betweenSamples: 'showBetweenSamples',
    edges: 'showEdges',
    instruments: 'toggleInstruments',
    note: 'showNotes',
    previousNote: 'toNote',
    nextNote: 'toNote',
  },
  ...{ loopFrom: 'loopFromHere', loopTo: 'loopToHere', zoomIn: 'zoom', zoomOut: 'zoom', zoomAll: 'view' },
  ...{
    open: 'openFocused',
    alternative: 'nextAlternative',
    toggle: 'toggle',
    add: 'offerStages',
    duplicate: 'duplicateStage',
    sweep: 'armSweep',
  },
  ...{ figures: 'toggleFigures', undo: 'step', redo: 'step', deliver: 'deliver', keys: 'showKeys' },
};

test.each(pressed)('“$combination” does what the table says: $name', ({ name, combination }) => {
  const calls = page();
  press(combination);
  expect(calls).toEqual([TOLD[name]]);
});

test.each([
  ['button', 'Button'],
  ['switch', 'Switch'],
  ['combobox', 'List'],
  ['slider', 'Slider'],
])('after the mouse touched a %s, Space, letters, digits and undo still work', (role, name) => {
  const calls = page();
  focus(role, name, 'pointer');
  for (const combination of ['space', 'x', '3', 'shift 3', 'mod z']) press(combination);
  expect(calls).toEqual(['togglePlay', 'toggle', 'listenTo', 'openFocused', 'step']);
});

test('Space belongs to a button, a switch or a list that was reached by keyboard', () => {
  const calls = page();
  focus('button', 'Button', 'keyboard');
  press('space');
  focus('switch', 'Switch', 'keyboard');
  press('space');
  focus('combobox', 'List', 'keyboard');
  press('space');
  expect(calls).toEqual([]);
  press('x');
  expect(calls).toEqual(['toggle']);
});

test('arrows belong to a slider, and typing and an open menu keep every key', () => {
  const calls = page();
  focus('slider', 'Slider', 'pointer');
  press('arrowleft');
  press('home');
  for (const [role, name] of [
    ['textbox', 'Text'],
    ['menuitem', 'Item'],
  ]) {
    focus(role, name, 'pointer');
    for (const { combination } of pressed) press(combination);
  }
  expect(calls).toEqual([]);
});

test('a dialog leaves listening to the keys, and what changes the lane to itself', () => {
  const calls = page();
  focus('button', 'In a dialog', 'keyboard');
  for (const combination of ['x', 'arrowright', 'd', 'o', 'a', '1', 'shift 1']) press(combination);
  expect(calls).toEqual(['toggle', 'skip', 'listenTo']);
});

test('no combination is given twice, and the documentation lists what works', () => {
  const combinations = pressed.map(({ combination }) => combination);
  expect(new Set(combinations).size).toBe(combinations.length);
  expect(readFileSync('docs/keys.md', 'utf8')).toBe(keysAsMarkdown());
});
