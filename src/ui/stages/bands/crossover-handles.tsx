'use client';

import Box from '@mui/material/Box';
import Tooltip from '@mui/material/Tooltip';
import { splitFrequency } from '../../../core/lane/crossover-edits';
import type { KeyboardEvent, RefObject } from 'react';
import { figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { useEditor, useLane } from '../../track/context';
import { useDrag } from '../../kit/use-drag';
import { HIGH, LEFT, LOW, RIGHT, shareOf } from '../equalizer/equalizer-axes';

const placeOf = (frequencyHz: number) =>
  `calc(${LEFT}px + (100% - ${LEFT + RIGHT}px) * ${shareOf(Math.max(LOW, Math.min(HIGH, frequencyHz)))})`;

/**
 * The lane's crossovers as lines across a picture over the octaves: dragged, or moved by keys. Beside them bands are merged
 * and split.
 */
export function CrossoverHandles({
  box,
  bottom,
  open,
}: {
  box: RefObject<HTMLDivElement | null>;
  bottom: number;
  /** The band that is open. */
  open: number;
}) {
  const editor = useEditor();
  const crossovers = useLane((state) => state.version.lane.crossovers);
  const { frequenciesHz } = crossovers;
  const drag = useDrag(({ args, first, last, movement: [x], shiftKey, memo }) => {
    const [index] = args as [number];
    const from = first ? frequenciesHz[index] : (memo as number);
    if (!box.current) return from;
    const { width } = box.current.getBoundingClientRect();
    const octaves = ((x * (shiftKey ? 0.1 : 1)) / (width - LEFT - RIGHT)) * Math.log2(HIGH / LOW);
    editor.lane.moveCrossover(index, from * 2 ** octaves);
    if (last) void editor.lane.flush();
    return from;
  });
  const onKeyDown = (event: KeyboardEvent, index: number, frequencyHz: number) => {
    const octaves = event.shiftKey ? 1 / 48 : 1 / 12;
    const up = event.key === 'ArrowRight' || event.key === 'ArrowUp';
    const down = event.key === 'ArrowLeft' || event.key === 'ArrowDown';
    if (up || down) editor.lane.moveCrossover(index, frequencyHz * 2 ** (up ? octaves : -octaves));
    else if (event.key === 'Delete' || event.key === 'Backspace') editor.removeCrossover(index);
    else return;
    event.preventDefault();
    event.stopPropagation();
    void editor.lane.flush();
  };

  const handles = frequenciesHz.map((frequencyHz, i) => (
    <Box
      key={i}
      component="button"
      role="slider"
      aria-label={`Crossover ${i + 1} (arrow keys move it, delete removes it)`}
      aria-valuemin={LOW}
      aria-valuemax={HIGH}
      aria-valuenow={frequencyHz}
      aria-valuetext={`${figure(frequencyHz, 0)} Hz`}
      {...drag(i)}
      onKeyDown={(event: KeyboardEvent) => onKeyDown(event, i, frequencyHz)}
      sx={{
        ...{ position: 'absolute', top: 0, bottom, width: 18, ml: '-9px', p: 0, border: 0, bgcolor: 'transparent' },
        ...{ cursor: 'ew-resize', touchAction: 'none', color: 'text.primary' },
        '&::before': {
          ...{ content: '""', position: 'absolute', left: '8px', top: 18, bottom: 0, width: '2px' },
          bgcolor: 'text.primary',
        },
      }}
      style={{ left: placeOf(frequencyHz) }}
    >
      <Box
        component="span"
        sx={{
          ...{
            position: 'absolute',
            top: 0,
            left: '50%',
            transform: 'translateX(-50%)',
            px: 0.75,
            whiteSpace: 'nowrap',
          },
          ...{
            font: `600 12px ${FIGURE_FACE}`,
            lineHeight: '18px',
            border: 1,
            borderRadius: 1,
            borderColor: 'text.primary',
          },
          bgcolor: 'background.paper',
        }}
      >
        {figure(frequencyHz, 0)} Hz
      </Box>
    </Box>
  ));
  const buttonAt = (frequencyHz: number, title: string, sign: '+' | '×', onClick: () => void) => (
    <Tooltip key={title} title={title}>
      <Box
        component="button"
        aria-label={title}
        onClick={onClick}
        sx={{
          ...{
            position: 'absolute',
            top: sign === '+' ? 0 : 20,
            width: 24,
            height: 24,
            ml: sign === '+' ? '-12px' : '1px',
            p: 0,
            lineHeight: 1,
            cursor: 'pointer',
          },
          ...{ border: 0, bgcolor: 'transparent', color: 'text.primary', font: `600 15px ${FIGURE_FACE}` },
          '&:hover': { bgcolor: 'action.hover', borderRadius: 1 },
        }}
        style={{ left: placeOf(frequencyHz) }}
      >
        {sign}
      </Box>
    </Tooltip>
  );
  const middle = splitFrequency(crossovers, open);
  return (
    <>
      {handles}
      {frequenciesHz.length > 1 &&
        frequenciesHz.map((frequencyHz, i) =>
          buttonAt(frequencyHz, `Merge bands ${i + 1} and ${i + 2}, with the settings of the lower one`, '×', () =>
            editor.removeCrossover(i),
          ),
        )}
      {middle !== null &&
        buttonAt(middle, `Split band ${open + 1}, both halves with its settings`, '+', () =>
          editor.lane.splitBand(open),
        )}
    </>
  );
}
