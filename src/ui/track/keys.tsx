'use client';

import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { Fragment } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { belongsToFocus, inDialog } from '../kit/key-scope';
import { FIGURE_FACE } from '../theme/theme';
import { useEditor } from './context';
import { KEY_GROUPS, KEYS, type Key, type KeyName } from './key-table';
import type { TrackEditor } from './track-editor';
import { toggleDim } from './volume';

/** What the page around the editor does by key. */
export interface PageActions {
  showKeys: () => void;
  toggleFigures: () => void;
  deliver: () => void;
  showNotes: () => void;
  toggleInstruments: () => void;
  showBetweenSamples: () => void;
  showEdges: () => void;
}

type Action = (pressed: string) => unknown;

/** What each key does; those of a control are its own. */
function actionsOf(editor: TrackEditor, page: PageActions): Partial<Record<KeyName, Action>> {
  const { lane, selection, transport, audition, track } = editor;
  const heard = () => audition.store.getState();
  const openStage = () => lane.stage(selection.store.getState().stage);
  return {
    play: () => track.store.getState().audio && transport.togglePlay(),
    candidate: (digit) => audition.listenTo(Number(digit) - 1),
    other: () => audition.toggle(),
    change: () => audition.hearDifference(!heard().difference),
    without: () => {
      const stage = openStage();
      if (stage) editor.hearWithout(stage.id);
    },
    mono: () => audition.setMonitor(heard().monitor === 'mono' ? 'stereo' : 'mono'),
    band: (pressed) => {
      const band = 'qwety'.indexOf(pressed);
      audition.soloBand(heard().band === band ? null : band);
    },
    normal: () => audition.listenNormally(),
    dim: toggleDim,
    blind: () => editor.blind.show(true),
    solo: () => audition.hearRegion(!heard().soloRegion),
    back: () => editor.navigation.skip(-5),
    forward: () => editor.navigation.skip(5),
    start: () => transport.seek(0),
    loudest: () => editor.navigation.toLoudest(),
    loop: () => editor.navigation.toggleLoop(),
    loopFrom: () => editor.navigation.loopFromHere(),
    loopTo: () => editor.navigation.loopToHere(),
    instruments: page.toggleInstruments,
    betweenSamples: page.showBetweenSamples,
    edges: page.showEdges,
    note: page.showNotes,
    previousNote: () => editor.navigation.toNote(-1),
    nextNote: () => editor.navigation.toNote(1),
    zoomIn: () => editor.navigation.zoom(-1),
    zoomOut: () => editor.navigation.zoom(1),
    zoomAll: () => selection.view(null),
    open: (pressed) => {
      const stage = lane.lane.stages[Number(pressed.at(-1)) - 1];
      if (stage) editor.openFocused(stage.id);
    },
    alternative: () => {
      const stage = openStage();
      if (stage) editor.nextAlternative(stage.id);
    },
    toggle: () => {
      const stage = openStage();
      if (stage) lane.toggle(stage.id);
    },
    add: () => editor.offerStages(),
    duplicate: () => {
      const stage = openStage();
      if (stage) editor.duplicateStage(stage.id);
    },
    sweep: () => editor.armSweep(!selection.store.getState().sweeping),
    figures: page.toggleFigures,
    undo: () => lane.step('undo'),
    redo: () => lane.step('redo'),
    deliver: page.deliver,
    keys: page.showKeys,
  };
}

/** Which key has which combination; Space, and a digit with Shift, are found by their place on the keyboard, all else by what is printed on it. */
const NAME_OF = new Map(
  Object.entries(KEYS).flatMap(([name, { combinations }]) =>
    combinations.map((combination) => [combination, name as KeyName] as const),
  ),
);
const SPACE = 'space';
/** With Shift a digit prints something else on every keyboard. */
const BY_PLACE = [...NAME_OF.keys()].filter((combination) => /^shift \d$/.test(combination));
const PRINTED = [...NAME_OF.keys()].filter((combination) => combination !== SPACE && !BY_PLACE.includes(combination));
const ANYWHERE = { enableOnFormTags: true, enableOnContentEditable: true } as const;

/** Everything that is done a hundred times a day, by key, wherever the focus is. */
export function useKeys(page: PageActions): void {
  const actions = actionsOf(useEditor(), page);
  const press = (event: KeyboardEvent, { hotkey }: { hotkey: string }) => {
    const name = NAME_OF.get(hotkey)!;
    const focused = document.activeElement;
    if (event.defaultPrevented || belongsToFocus(event, focused)) return;
    const { inDialogs }: Key = KEYS[name];
    if (inDialog(focused) && !inDialogs) return;
    event.preventDefault();
    event.stopPropagation();
    // Some browsers press what has the focus when Space comes up again.
    if (hotkey === SPACE)
      document.addEventListener('keyup', (up) => up.preventDefault(), { capture: true, once: true });
    actions[name]?.(hotkey);
  };
  // Before a list that the mouse has left with the focus opens again.
  useHotkeys(SPACE, press, { ...ANYWHERE, eventListenerOptions: { capture: true } });
  useHotkeys(BY_PLACE, press, { ...ANYWHERE, splitKey: ' ', delimiter: '\n' });
  useHotkeys(PRINTED, press, { ...ANYWHERE, useKey: true, splitKey: ' ', delimiter: '\n' });
}

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} maxWidth="md">
      <DialogTitle>Keys</DialogTitle>
      <DialogContent tabIndex={0} aria-label="All keys" role="group" sx={{ columnCount: { sm: 2 }, columnGap: 5 }}>
        {Object.entries(KEY_GROUPS).map(([group, title]) => (
          <Box key={group} component="section" sx={{ breakInside: 'avoid', mb: 2 }}>
            <Typography variant="h3" sx={{ mb: 0.5 }}>
              {title}
            </Typography>
            <Box
              component="dl"
              sx={{
                m: 0,
                display: 'grid',
                gridTemplateColumns: '118px 1fr',
                columnGap: 2,
                rowGap: 0.5,
                '& dt': { fontFamily: FIGURE_FACE, fontSize: 12.5 },
                '& dd': { m: 0 },
              }}
            >
              {Object.entries(KEYS)
                .filter(([, each]) => each.group === group)
                .map(([name, each]) => (
                  <Fragment key={name}>
                    <dt>{each.label}</dt>
                    <dd>{each.title}</dd>
                  </Fragment>
                ))}
            </Box>
          </Box>
        ))}
      </DialogContent>
    </Dialog>
  );
}
