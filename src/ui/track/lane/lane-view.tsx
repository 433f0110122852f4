'use client';

import { DndContext, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { restrictToHorizontalAxis, restrictToParentElement } from '@dnd-kit/modifiers';
import { horizontalListSortingStrategy, SortableContext } from '@dnd-kit/sortable';
import Box from '@mui/material/Box';
import TableIcon from '@mui/icons-material/TableRowsOutlined';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import { useEditor, useLane, useTransport } from '../context';
import { AddStage, JointFigures } from './joint';
import { Ribbon } from './ribbon';
import { Stop } from './stop';
import { withKey } from '../key-table';

/** Room at both ends of the ribbon, in pixels, where the mix comes in and the master goes out. */
const INSET = 48;
const PADDING = 16;
/** A stop is at least this wide; a longer lane scrolls. */
const LEAST_STOP = 104;

const MASTER_END = {
  ...{ position: 'absolute', right: 0, width: PADDING + INSET + 4, zIndex: 3, pointerEvents: 'none' },
  ...{
    display: 'grid',
    justifyItems: 'end',
    pr: 0.75,
    alignContent: 'start',
    fontSize: 12,
    bgcolor: 'background.default',
  },
} as const;

/** The lane: stages as stops on a ribbon that turns from copper to patina. */
export function LaneView({ onFigures }: { onFigures: () => void }) {
  const editor = useEditor();
  const stages = useLane((state) => state.version.lane.stages);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const playing = useTransport((state) => state.playing);
  const ids = stages.map(({ id }) => id);

  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id) editor.lane.move(String(active.id), ids.indexOf(String(over.id)));
  };
  const place = (joint: number) =>
    joint === 0
      ? `${PADDING + INSET / 2 + 4}px`
      : joint === stages.length
        ? `calc(100% - ${PADDING + INSET / 2 + 4}px)`
        : `calc(${PADDING + INSET}px + (100% - ${2 * (PADDING + INSET)}px) * ${joint / stages.length})`;

  return (
    <Box
      component="section"
      aria-label="Lane"
      sx={{ position: 'relative', height: 166, flexShrink: 0, borderBottom: 1, borderColor: 'divider' }}
    >
      <Box sx={{ position: 'absolute', inset: 0, overflowX: 'auto', overflowY: 'hidden' }}>
        <Box
          sx={{ position: 'relative', height: '100%', minWidth: 2 * (PADDING + INSET) + stages.length * LEAST_STOP }}
        >
          <Ribbon joints={stages.length + 1} inset={INSET} />
          <Box
            sx={{
              position: 'absolute',
              left: PADDING,
              top: 22,
              fontWeight: 650,
              fontSize: 12,
              color: 'secondary.main',
            }}
          >
            mix
          </Box>
          <Tooltip title={withKey('Gain staging: what each stage does to the level', 'figures')}>
            <IconButton
              size="small"
              aria-label="Gain staging"
              onClick={onFigures}
              sx={{ position: 'absolute', left: PADDING - 4, top: 44, p: '3px' }}
            >
              <TableIcon sx={{ fontSize: 17 }} />
            </IconButton>
          </Tooltip>
          <DndContext
            sensors={sensors}
            onDragEnd={onDragEnd}
            modifiers={[restrictToHorizontalAxis, restrictToParentElement]}
          >
            <SortableContext items={ids} strategy={horizontalListSortingStrategy}>
              <Box
                sx={{ position: 'absolute', left: PADDING + INSET, right: PADDING + INSET, top: 10, display: 'flex' }}
              >
                {stages.map((stage, index) => (
                  <Stop key={stage.id} stage={stage} index={index} />
                ))}
              </Box>
            </SortableContext>
          </DndContext>
          {Array.from({ length: stages.length + 1 }, (_, joint) => (
            <Box key={joint}>
              <Box sx={{ position: 'absolute', top: 83, left: place(joint), transform: 'translateX(-50%)' }}>
                <AddStage at={joint} />
              </Box>
              {joint < stages.length && (
                <Box sx={{ position: 'absolute', top: 130, left: place(joint), transform: 'translateX(-50%)' }}>
                  <JointFigures index={joint} />
                </Box>
              )}
            </Box>
          ))}
          <Box sx={{ position: 'absolute', left: PADDING, top: 112, fontSize: 12, color: 'text.secondary' }}>LUFS</Box>
        </Box>
      </Box>
      {/* The master's end stays in sight above a lane that scrolls. */}
      <Box sx={{ ...MASTER_END, top: 0, height: 58, pt: '22px' }}>
        <Box sx={{ fontWeight: 650, color: 'primary.main' }}>master</Box>
        <Box sx={{ color: 'text.secondary', whiteSpace: 'nowrap' }}>{playing ? 'now' : 'whole track'}</Box>
      </Box>
      <Box sx={{ ...MASTER_END, top: 124, bottom: 0, pt: '6px' }}>
        <JointFigures index={stages.length} />
      </Box>
    </Box>
  );
}
