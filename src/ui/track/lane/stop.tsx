'use client';

import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import type { KeyboardEvent } from 'react';
import { stageTitle, type Stage } from '../../../core/lane/schema';
import { STAGES } from '../../../core/stages/registry';
import { WET_OFF_DB } from '../../../core/stages/room/settings';
import { change, count, figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { useLiveReadings, useSession, useWorkspace } from '../context';

/** The one figure that says what a stage does now. */
function useFigure(stage: Stage, index: number): string {
  const { board } = useSession();
  useLiveReadings();
  const trace = useWorkspace((state) => state.pass?.gainReduction[index]);
  const playing = useWorkspace((state) => state.playing);
  const bands = useWorkspace((state) => state.version.lane.crossovers.frequenciesHz.length + 1);
  if (!stage.on) return 'off';
  switch (stage.kind) {
    case 'trim': {
      const { linked, gainDb, gainLeftDb, gainRightDb } = stage.settings;
      return linked ? `${change(gainDb)} dB` : `${change(gainLeftDb)} / ${change(gainRightDb)}`;
    }
    case 'equalizer':
      return count(stage.settings.bands.filter(({ on }) => on).length, 'band');
    case 'stereo': {
      const { widthsPercent, monoBelow, monoUpperHz } = stage.settings;
      const used = widthsPercent.slice(0, bands);
      const [least, most] = [Math.min(...used), Math.max(...used)];
      if (least === most && least === 100 && monoBelow) return `mono < ${monoUpperHz} Hz`;
      return least === most ? `${least} % wide` : `${least}–${most} %`;
    }
    case 'room':
      return stage.settings.wetDb <= WET_OFF_DB ? 'silent' : `${figure(stage.settings.wetDb)} dB`;
    case 'saturation':
      return `${change(stage.settings.driveDb)} dB drive`;
    case 'clipper':
    case 'deEsser':
    case 'compressor':
    case 'bandDynamics':
    case 'limiter': {
      const reduction = playing
        ? (board.reductions[index]?.value ?? 0)
        : (trace?.reduce((a, b) => Math.max(a, b), 0) ?? 0);
      return `${change(-reduction)} dB`;
    }
  }
}

/** A stage as a stop on the ribbon: press to open, drag to move, dot to switch. */
export function Stop({ stage, index }: { stage: Stage; index: number }) {
  const session = useSession();
  const open = useWorkspace((state) => state.openStage === stage.id);
  const figureText = useFigure(stage, index);
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: stage.id });
  const { summary } = STAGES[stage.kind];
  const title = stageTitle(stage);

  const keys = (event: KeyboardEvent) => {
    if (event.altKey && event.key === 'ArrowLeft' && index > 0) session.moveStage(stage.id, index - 1);
    else if (event.altKey && event.key === 'ArrowRight') session.moveStage(stage.id, index + 1);
    else if (event.key === 'Delete') session.removeStage(stage.id);
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
            width: 'min(134px, 100% - 6px)',
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
          onClick={() => session.openStage(stage.id)}
          onKeyDown={keys}
          aria-pressed={open}
          aria-label={`${title}, ${figureText}. ${summary}`}
          sx={{
            width: '100%',
            height: '100%',
            borderRadius: 2,
            px: 1.25,
            display: 'block',
            textAlign: 'left',
            lineHeight: 1.3,
          }}
        >
          <Box sx={{ fontWeight: 650, whiteSpace: 'nowrap', overflow: 'hidden', textOverflow: 'ellipsis', mr: 1.5 }}>
            {title}
          </Box>
          <Box sx={{ fontFamily: FIGURE_FACE, fontSize: 11.5, color: 'text.secondary', whiteSpace: 'nowrap' }}>
            {figureText}
          </Box>
        </ButtonBase>
        <ButtonBase
          role="switch"
          aria-checked={stage.on}
          aria-label={`${title} on`}
          onPointerDown={(event) => event.stopPropagation()}
          onClick={() => session.toggleStage(stage.id)}
          sx={{ position: 'absolute', top: 4, right: 4, width: 20, height: 20, borderRadius: '50%' }}
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
