'use client';

import Box from '@mui/material/Box';
import type { ComponentType } from 'react';
import type { Stage } from '../../core/lane/schema';
import type { StageKind } from '../../core/stages/registry';
import { useLane, useSelection } from '../track/context';
import * as PANELS from './panels';

/** What the panel of a kind of stage is given. */
export interface PanelProps<Kind extends StageKind> {
  stage: Extract<Stage, { kind: Kind }>;
  index: number;
}

const PANEL_OF: { readonly [Kind in StageKind]: ComponentType<PanelProps<Kind>> } = PANELS;

/** The open stage, or what to do when there is none. */
export function StagePanel() {
  const openStage = useSelection((state) => state.stage);
  const stages = useLane((state) => state.version.lane.stages);
  const index = stages.findIndex(({ id }) => id === openStage);
  const stage = stages[index];
  if (!stage) {
    return (
      <Box sx={{ flex: 1, display: 'grid', placeItems: 'center', color: 'text.secondary' }}>
        {stages.length === 0
          ? 'The lane is empty: the master is the untouched mix. Add a stage above to shape it.'
          : 'Open a stage above.'}
      </Box>
    );
  }
  const Panel = PANEL_OF[stage.kind] as ComponentType<{ stage: Stage; index: number }>;
  return <Panel key={stage.kind} stage={stage} index={index} />;
}
