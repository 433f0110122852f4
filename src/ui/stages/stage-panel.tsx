'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { ComponentType } from 'react';
import type { Stage } from '../../core/lane/schema';
import type { StageKind } from '../../core/stages/registry';
import { useEditor, useLane, useSelection } from '../track/context';
import * as PANELS from './panels';

/** What the panel of a kind of stage is given. */
export interface PanelProps<Kind extends StageKind> {
  stage: Extract<Stage, { kind: Kind }>;
  index: number;
}

const PANEL_OF: { readonly [Kind in StageKind]: ComponentType<PanelProps<Kind>> } = PANELS;

/** The open stage, or what to do when there is none. */
export function StagePanel() {
  const editor = useEditor();
  const openStage = useSelection((state) => state.stage);
  const stages = useLane((state) => state.version.lane.stages);
  const index = stages.findIndex(({ id }) => id === openStage);
  const stage = stages[index];
  if (!stage) {
    return (
      <Box sx={{ flex: 1, display: 'grid', placeContent: 'center', justifyItems: 'center', gap: 1.5, p: 3 }}>
        {stages.length === 0 ? (
          <>
            <Box sx={{ color: 'text.secondary' }}>
              The lane is empty: the master is the untouched mix. A trim sets the level that the other stages work at.
            </Box>
            <Box sx={{ display: 'flex', gap: 1 }}>
              <Button variant="contained" size="medium" onClick={() => editor.addStage('trim', 0)}>
                Start with a trim
              </Button>
              <Button variant="outlined" size="medium" onClick={() => editor.offerStages()}>
                Another stage…
              </Button>
            </Box>
          </>
        ) : (
          <Box sx={{ color: 'text.secondary' }}>Open a stage above.</Box>
        )}
      </Box>
    );
  }
  const Panel = PANEL_OF[stage.kind] as ComponentType<{ stage: Stage; index: number }>;
  return <Panel key={stage.kind} stage={stage} index={index} />;
}
