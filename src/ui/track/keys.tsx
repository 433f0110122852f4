'use client';

import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { Fragment } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { FIGURE_FACE } from '../theme/theme';
import { useEditor } from './context';

const KEYS: [keys: string, what: string][] = [
  ['Space', 'Play or pause'],
  ['X', 'Mix or master, at the same place'],
  ['C', 'Only the difference between mix and master'],
  ['B', 'With or without the open stage, level-matched'],
  ['← →', 'Five seconds back or forward'],
  ['Home', 'To the start'],
  ['P', 'To the loudest passage'],
  ['L', 'Loop on or off'],
  ['M', 'Mono or stereo'],
  ['1 … 9', 'Open a stage'],
  ['O', 'Switch the open stage on or off'],
  ['D', 'Duplicate the open stage'],
  ['R', 'Solo the open band'],
  ['S', 'Sweep: find ringing'],
  ['Enter', 'On a slider: set a pin'],
  ['Alt ← →', 'Move the focused stage'],
  ['G', 'Gain staging in figures'],
  ['Ctrl Z', 'Undo'],
  ['Ctrl Shift Z', 'Redo'],
  ['?', 'This list'],
];

/** Letters and signs also work while a slider or a band has the focus; arrows and Home belong to it then. */
const ON_SLIDERS = { enableOnFormTags: ['slider'] } as const;

/** Everything that is done a hundred times a day, by key. */
export function useKeys(showKeys: () => void, toggleFigures: () => void): void {
  const editor = useEditor();
  const { lane, selection, transport, audition, track } = editor;
  const heard = () => audition.store.getState();
  const openStage = () => lane.stage(selection.store.getState().stage);
  useHotkeys('space', () => track.store.getState().audio && transport.togglePlay(), {
    preventDefault: true,
    ...ON_SLIDERS,
  });
  useHotkeys('x', () => audition.listen(heard().heard === 'compared' ? 'master' : 'compared'), ON_SLIDERS);
  useHotkeys('c', () => audition.listen(heard().heard === 'difference' ? 'master' : 'difference'), ON_SLIDERS);
  useHotkeys(
    'b',
    () => {
      const stage = openStage();
      if (heard().without) audition.hearWithout(null);
      else if (stage?.on) audition.hearWithout(stage.id);
    },
    ON_SLIDERS,
  );
  useHotkeys(
    'd',
    () => {
      const stage = openStage();
      if (stage) editor.duplicateStage(stage.id);
    },
    ON_SLIDERS,
  );
  useHotkeys('s', () => editor.armSweep(!selection.store.getState().sweeping), ON_SLIDERS);
  useHotkeys('r', () => audition.hearRegion(!heard().soloRegion), ON_SLIDERS);
  useHotkeys('left', () => editor.skip(-5));
  useHotkeys('right', () => editor.skip(5));
  useHotkeys('home', () => transport.seek(0));
  useHotkeys('p', () => editor.toLoudest(), ON_SLIDERS);
  useHotkeys('l', () => editor.toggleLoop(), ON_SLIDERS);
  useHotkeys('m', () => audition.setMonitor(heard().monitor === 'mono' ? 'stereo' : 'mono'), ON_SLIDERS);
  useHotkeys(
    '1,2,3,4,5,6,7,8,9',
    ({ key }) => {
      const stage = lane.lane.stages[Number(key) - 1];
      if (stage) editor.openStage(stage.id);
    },
    ON_SLIDERS,
  );
  useHotkeys(
    'o',
    () => {
      const stage = openStage();
      if (stage) lane.toggle(stage.id);
    },
    ON_SLIDERS,
  );
  useHotkeys('g', toggleFigures, ON_SLIDERS);
  useHotkeys('mod+z', () => void lane.step('undo'), { preventDefault: true, ...ON_SLIDERS });
  useHotkeys('mod+shift+z', () => void lane.step('redo'), { preventDefault: true, ...ON_SLIDERS });
  // By the sign, wherever a keyboard has it.
  useHotkeys('?', showKeys, { useKey: true, ...ON_SLIDERS });
}

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose}>
      <DialogTitle>Keys</DialogTitle>
      <DialogContent>
        <Box
          component="dl"
          sx={{
            m: 0,
            display: 'grid',
            gridTemplateColumns: 'auto 1fr',
            columnGap: 3,
            rowGap: 0.75,
            '& dt': { fontFamily: FIGURE_FACE },
            '& dd': { m: 0 },
          }}
        >
          {KEYS.map(([keys, what]) => (
            <Fragment key={keys}>
              <dt>{keys}</dt>
              <dd>{what}</dd>
            </Fragment>
          ))}
        </Box>
      </DialogContent>
    </Dialog>
  );
}
