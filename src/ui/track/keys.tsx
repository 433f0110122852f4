'use client';

import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { Fragment } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { FIGURE_FACE } from '../theme/theme';
import { useSession } from './context';
import { toggleLoop } from './listening-bar';

const KEYS: [keys: string, what: string][] = [
  ['Space', 'Play or pause'],
  ['X', 'Mix or master, at the same place'],
  ['C', 'Only the change from mix to master'],
  ['B', 'With or without the open stage, at equal loudness'],
  ['← →', 'Five seconds back or forward'],
  ['Home', 'To the beginning'],
  ['P', 'To the loudest passage'],
  ['L', 'Loop on or off'],
  ['M', 'Mono or stereo'],
  ['1 … 9', 'Open a stage'],
  ['O', 'Switch the open stage on or off'],
  ['D', 'Duplicate the open stage'],
  ['R', 'Only the region of the open band'],
  ['S', 'Sweep: hunt for what rings'],
  ['Enter', 'On a slider: set a pin'],
  ['Alt ← →', 'Move the stage in focus'],
  ['G', 'Gain staging in figures'],
  ['Ctrl Z', 'Undo'],
  ['Ctrl Shift Z', 'Redo'],
  ['?', 'This list'],
];

/** Letters and signs also work while a slider or a band has the focus, which need the arrows and Home for themselves. */
const ON_SLIDERS = { enableOnFormTags: ['slider'] } as const;

/** Everything that is done a hundred times a day, by key. */
export function useKeys(showKeys: () => void, toggleFigures: () => void): void {
  const session = useSession();
  const state = () => session.store.getState();
  useHotkeys('space', () => state().audio && session.listening.togglePlay(), { preventDefault: true, ...ON_SLIDERS });
  useHotkeys('x', () => session.listening.listen(state().side === 'mix' ? 'master' : 'mix'), ON_SLIDERS);
  useHotkeys('c', () => session.listening.listen(state().side === 'change' ? 'master' : 'change'), ON_SLIDERS);
  useHotkeys(
    'b',
    () => {
      const { openStage, against, version } = state();
      const stage = version.lane.stages.find(({ id }) => id === openStage);
      if (against) session.comparison.hearWithout(null);
      else if (stage?.on) session.comparison.hearWithout(stage.id);
    },
    ON_SLIDERS,
  );
  useHotkeys(
    'd',
    () => {
      const { openStage } = state();
      if (openStage) session.duplicateStage(openStage);
    },
    ON_SLIDERS,
  );
  useHotkeys('s', () => session.armSweep(!state().sweeping), ON_SLIDERS);
  useHotkeys('r', () => session.listening.hearRegion(!state().soloRegion), ON_SLIDERS);
  useHotkeys('left', () => session.listening.skip(-5));
  useHotkeys('right', () => session.listening.skip(5));
  useHotkeys('home', () => session.listening.seek(0));
  useHotkeys('p', () => session.listening.toLoudest(), ON_SLIDERS);
  useHotkeys('l', () => toggleLoop(session), ON_SLIDERS);
  useHotkeys('m', () => session.listening.setMonitor(state().monitor === 'mono' ? 'stereo' : 'mono'), ON_SLIDERS);
  useHotkeys(
    '1,2,3,4,5,6,7,8,9',
    ({ key }) => {
      const stage = state().version.lane.stages[Number(key) - 1];
      if (stage) session.openStage(stage.id);
    },
    ON_SLIDERS,
  );
  useHotkeys(
    'o',
    () => {
      const { openStage } = state();
      if (openStage) session.toggleStage(openStage);
    },
    ON_SLIDERS,
  );
  useHotkeys('g', toggleFigures, ON_SLIDERS);
  useHotkeys('mod+z', () => void session.step('undo'), { preventDefault: true, ...ON_SLIDERS });
  useHotkeys('mod+shift+z', () => void session.step('redo'), { preventDefault: true, ...ON_SLIDERS });
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
