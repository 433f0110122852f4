'use client';

import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import { useEffect, useRef, type KeyboardEvent } from 'react';
import { stageTitle, type Stage } from '../../../core/lane/schema';
import { definitionOf, STAGES } from '../../../core/stages/registry';
import { change } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { useEditor, useLane, useLiveReadings, useMeasurements, useSelection, useTransport } from '../context';
import { STALE, useStale } from '../stale';

/** The main setting of a stage, or how much it takes away. */
function useFigure(stage: Stage, index: number): string {
  const { board } = useEditor();
  useLiveReadings();
  const trace = useMeasurements((state) => state.measurement?.gainReduction[index]);
  const playing = useTransport((state) => state.playing);
  const bands = useLane((state) => state.version.lane.crossovers.frequenciesHz.length + 1);
  if (!stage.on) return 'off';
  const shown = definitionOf<Stage>(stage).figure(stage.settings, bands);
  if (shown !== 'gainReduction') return shown.text;
  const reduction = playing ? (board.reductions[index]?.value ?? 0) : (trace?.reduce((a, b) => Math.max(a, b), 0) ?? 0);
  return `${change(-reduction)} dB`;
}

/** Loudness that a stage adds or takes, in words: now while playing, else over the whole track; empty until it is known. */
function useLoudnessChange(stage: Stage, index: number): string {
  const readings = useLiveReadings();
  const playing = useTransport((state) => state.playing);
  const measured = useMeasurements((state) => state.measurement?.joints);
  if (!stage.on) return '';
  const live = playing ? readings?.joints : undefined;
  const loudness = live
    ? [live[index]?.momentaryLufs, live[index + 1]?.momentaryLufs]
    : [measured?.[index]?.integratedLufs, measured?.[index + 1]?.integratedLufs];
  const difference = loudness[1]! - loudness[0]!;
  return Number.isFinite(difference) ? `${change(difference)} LU` : '';
}

/** The main setting follows what the stage does where there is room for both. */
const SECOND_LINE = {
  ...{ display: 'flex', flexWrap: 'wrap', justifyContent: 'space-between', height: '1.3em', overflow: 'hidden' },
  ...{ fontFamily: FIGURE_FACE, fontSize: 12, color: 'text.secondary', whiteSpace: 'nowrap', columnGap: 1 },
} as const;

/** A stage as a stop on the ribbon: press to open, drag to move, dot to switch. */
export function Stop({ stage, index }: { stage: Stage; index: number }) {
  const editor = useEditor();
  const open = useSelection((state) => state.stage === stage.id);
  const figureText = useFigure(stage, index);
  const loudnessChange = useLoudnessChange(stage, index);
  const stale = useStale();
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: stage.id });
  const { summary } = STAGES[stage.kind];
  const title = stageTitle(stage);
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    // In a lane that scrolls, the open stage is seen.
    if (open) button.current?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [open]);
  const focused = useSelection((state) => state.focused === stage.id);
  useEffect(() => {
    if (!focused) return;
    // After the menu has given the focus back.
    const frame = requestAnimationFrame(() => button.current?.focus());
    return () => cancelAnimationFrame(frame);
  }, [focused]);

  const keys = (event: KeyboardEvent) => {
    if (event.altKey && event.key === 'ArrowLeft' && index > 0) editor.lane.move(stage.id, index - 1);
    else if (event.altKey && event.key === 'ArrowRight') editor.lane.move(stage.id, index + 1);
    else if (event.key === 'Delete') editor.removeStage(stage.id);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <Box
      ref={setNodeRef}
      sx={{ flex: 1, display: 'flex', justifyContent: 'center', position: 'relative', zIndex: isDragging ? 2 : 1 }}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <Box
        {...listeners}
        sx={{
          ...{
            position: 'relative',
            width: 'min(152px, 100% - 6px)',
            height: 42,
            bgcolor: 'background.paper',
            borderRadius: 2,
            border: open ? 2 : 1,
          },
          ...{ borderColor: open ? 'text.primary' : 'divider', opacity: stage.on ? 1 : 0.65, touchAction: 'none' },
          '&::after': {
            content: '""',
            position: 'absolute',
            left: '50%',
            top: '100%',
            height: 78,
            borderLeft: open ? 2 : 1,
            borderColor: open ? 'text.primary' : 'text.secondary',
            ml: '-1px',
            pointerEvents: 'none',
          },
        }}
      >
        <ButtonBase
          ref={button}
          onClick={() => editor.openStage(stage.id)}
          onKeyDown={keys}
          aria-pressed={open}
          aria-label={`${[title, loudnessChange, figureText].filter(Boolean).join(', ')}. ${summary}`}
          sx={{
            // The master's end of a lane that scrolls lies above it.
            scrollMarginInline: 80,
            width: '100%',
            height: '100%',
            borderRadius: 2,
            px: 1,
            display: 'block',
            textAlign: 'left',
            lineHeight: 1.3,
          }}
        >
          <Box sx={{ fontWeight: 650, whiteSpace: 'nowrap', overflow: 'hidden', textOverflow: 'ellipsis', mr: 1.5 }}>
            {title}
          </Box>
          <Box sx={SECOND_LINE}>
            <Box component="span" sx={loudnessChange && stale ? STALE : undefined}>
              {loudnessChange || figureText}
            </Box>
            {loudnessChange && <Box component="span">{figureText}</Box>}
          </Box>
        </ButtonBase>
        <ButtonBase
          role="switch"
          aria-checked={stage.on}
          aria-label={`${title} on`}
          onPointerDown={(event) => event.stopPropagation()}
          onClick={() => editor.lane.toggle(stage.id)}
          sx={{ position: 'absolute', top: 1, right: 1, width: 24, height: 24, borderRadius: '50%' }}
        >
          <Box
            sx={{
              width: 10,
              height: 10,
              borderRadius: '50%',
              border: '1.5px solid',
              borderColor: 'primary.main',
              bgcolor: stage.on ? 'primary.main' : 'transparent',
            }}
          />
        </ButtonBase>
      </Box>
    </Box>
  );
}
