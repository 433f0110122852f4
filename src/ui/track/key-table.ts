/** Where a key works. On a control it belongs to the control that has the focus. */
export const KEY_GROUPS = {
  listening: 'Listening',
  programme: 'Programme',
  lane: 'Lane and stages',
  slider: 'On a slider',
  band: 'On a band in the picture',
  stop: 'On a stage in the lane',
} as const;

export interface Key {
  group: keyof typeof KEY_GROUPS;
  /** Each combination that does it, parts set apart by a space; none where the control itself takes the key. */
  combinations: readonly string[];
  /** As a keyboard is labelled. */
  label: string;
  title: string;
  /** Works while a dialog is open as well. */
  inDialogs?: boolean;
}

const key = (
  group: Key['group'],
  label: string,
  combinations: string,
  title: string,
  inDialogs = false,
): Readonly<Key> => ({
  ...{ group, label, title, inDialogs },
  combinations: combinations === '' ? [] : combinations.split(' / '),
});

/** Every key of the workspace. What works, the list on "?", the tooltips and the documentation all read this. */
export const KEYS = {
  play: key('listening', 'Space', 'space', 'Play or pause', true),
  candidate: key(
    'listening',
    '1 … 9',
    '1 / 2 / 3 / 4 / 5 / 6 / 7 / 8 / 9',
    'Hear a candidate, at the same place',
    true,
  ),
  other: key('listening', 'X', 'x', 'Switch between the last two candidates, such as mix and master', true),
  change: key('listening', 'C', 'c', 'Only the difference between those two', true),
  without: key('listening', 'B', 'b', 'With or without the open stage, level-matched', true),
  mono: key('listening', 'M', 'm', 'Mono or stereo', true),
  band: key(
    'listening',
    'Q W E T Y',
    'q / w / e / t / y',
    'Solo a listening band, from low to high; again for all',
    true,
  ),
  normal: key('listening', 'N', 'n', 'Normal stereo again: all channels and bands, no simulated place', true),
  dim: key('listening', 'V', 'v', 'Dim by 20 dB', true),
  blind: key('listening', 'J', 'j', 'Blind test: set one up, or see those that were taken'),
  solo: key('listening', 'R', 'r', 'Solo the open band'),
  back: key('programme', '←', 'arrowleft', 'Five seconds back', true),
  forward: key('programme', '→', 'arrowright', 'Five seconds forward', true),
  start: key('programme', 'Home', 'home', 'To the start', true),
  loudest: key('programme', 'P', 'p', 'To the loudest passage', true),
  loop: key('programme', 'L', 'l', 'Loop on or off', true),
  loopFrom: key('programme', ',', ',', 'Loop from here'),
  loopTo: key('programme', '.', '.', 'Loop to here'),
  instruments: key('listening', 'H', 'h', 'Instruments: meters at two places of the lane', true),
  betweenSamples: key('programme', 'U', 'u', 'Between the samples: the highest peaks and every over'),
  edges: key('programme', 'F', 'f', 'Edges: where the track starts and ends, and its fades'),
  note: key('programme', 'I', 'i', 'Notes: write one here, or over the loop'),
  previousNote: key('programme', '[', '[', 'To the note before', true),
  nextNote: key('programme', ']', ']', 'To the next note', true),
  zoomIn: key('programme', '+', '+ / shift + / =', 'Zoom in at the playhead'),
  zoomOut: key('programme', '−', '-', 'Zoom out'),
  zoomAll: key('programme', '0', '0', 'The whole track'),
  open: key('lane', 'Shift 1 … 9', '123456789'.replace(/\d/g, ' / shift $&').slice(3), 'Open a stage'),
  alternative: key('lane', 'K', 'k', 'The next alternative of the open stage', true),
  toggle: key('lane', 'O', 'o', 'Switch the open stage on or off'),
  add: key('lane', 'A', 'a', 'Add a stage after the open one'),
  duplicate: key('lane', 'D', 'd', 'Duplicate the open stage'),
  sweep: key('lane', 'S', 's', 'Sweep: find ringing'),
  figures: key('lane', 'G', 'g', 'Gain staging in figures', true),
  undo: key('lane', 'Ctrl Z', 'mod z', 'Undo', true),
  redo: key('lane', 'Ctrl Shift Z', 'mod shift z / mod y', 'Redo', true),
  deliver: key('lane', 'Ctrl Enter', 'mod enter', 'Deliver'),
  keys: key('lane', '?', '? / shift ?', 'This list'),
  step: key('slider', '← → ↑ ↓', '', 'One move; with Shift the finest step, with Page up and Page down a large one'),
  default: key('slider', 'Backspace', '', 'Back to the default'),
  pin: key('slider', 'Enter', '', 'Set a pin at this value'),
  nextPin: key('slider', 'Ctrl ← →', '', 'To the next pin'),
  removePin: key('slider', 'Delete', '', 'Remove the pin at this value'),
  moveBand: key('band', '← → ↑ ↓', '', 'Frequency and gain; with Shift the finest step'),
  bandQ: key('band', 'Page up, Page down', '', 'Q'),
  removeBand: key('band', 'Delete', '', 'Remove the band'),
  moveStage: key('stop', 'Alt ← →', '', 'Move the stage'),
  removeStage: key('stop', 'Delete', '', 'Remove the stage'),
} satisfies Record<string, Readonly<Key>>;

export type KeyName = keyof typeof KEYS;

/** A tooltip's text with its key: "Play or pause (Space)". */
export function withKey(text: string, name: KeyName): string {
  return `${text} (${KEYS[name].label})`;
}

/** The table as a page of the documentation. */
export function keysAsMarkdown(): string {
  const groups = Object.entries(KEY_GROUPS).map(([group, title]) => {
    const rows = Object.values(KEYS).filter((each) => each.group === group);
    return `## ${title}\n\n| Key | What it does |\n| --- | --- |\n${rows.map((row) => `| ${row.label} | ${row.title} |`).join('\n')}\n`;
  });
  return `# Keys

The keys of the workspace work wherever the focus is, except where text is typed and in open menus. Space and Enter press a
focused button. A switch or a list that was touched with the mouse leaves Space to playback; one reached with Tab takes it.
Press ? in the workspace for this list.

${groups.join('\n')}`;
}
