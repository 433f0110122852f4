'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Tooltip from '@mui/material/Tooltip';
import type { ReactNode } from 'react';
import type { Stage } from '../../../core/lane/schema';
import { STAGES } from '../../../core/stages/registry';
import { figure } from '../../format';
import { FIGURE_FACE } from '../../theme/theme';
import { useLiveReadings, useSession, useWorkspace } from '../context';

/** Loudness and true peak into and out of a stage, next to each other. */
function InOut({ index }: { index: number }) {
  const readings = useLiveReadings();
  const playing = useWorkspace((state) => state.playing);
  const joints = useWorkspace((state) => state.pass?.joints);
  const row = (name: string, joint: number) => {
    const live = playing ? readings?.joints[joint] : undefined;
    const reading = joints?.[joint];
    const lufs = live?.momentaryLufs ?? reading?.integratedLufs;
    const peak = live ? 20 * Math.log10(Math.max(1e-6, live.truePeak)) : reading?.truePeakDbtp;
    return (
      <Box sx={{ display: 'flex', justifyContent: 'space-between' }}>
        <Box component="dt" sx={{ color: 'text.secondary' }}>
          {name}
        </Box>
        <Box component="dd" sx={{ m: 0, fontFamily: FIGURE_FACE }}>
          {lufs === undefined || peak === undefined ? '–' : `${figure(lufs)} LUFS · ${figure(peak)} dBTP`}
        </Box>
      </Box>
    );
  };
  return (
    <Box component="dl" sx={{ m: 0, mt: 'auto', pt: 1, borderTop: 1, borderColor: 'divider', fontSize: 12.5 }}>
      {row('in', index)}
      {row('out', index + 1)}
    </Box>
  );
}

/** The frame that every stage stands in: picture at the left, controls at the right. */
export function StageFrame({
  stage,
  index,
  legend,
  picture,
  children,
}: {
  stage: Stage;
  index: number;
  legend: ReactNode;
  picture: ReactNode;
  children: ReactNode;
}) {
  const session = useSession();
  const last = useWorkspace((state) => state.version.lane.stages.length - 1);
  const { title, purpose, help } = STAGES[stage.kind];
  return (
    <Box
      component="section"
      aria-label={`${title} stage`}
      sx={{ flex: 1, minHeight: 0, display: 'grid', gridTemplateColumns: '1fr 312px' }}
    >
      <Box
        sx={{
          display: 'flex',
          flexDirection: 'column',
          minWidth: 0,
          minHeight: 0,
          borderRight: 1,
          borderColor: 'divider',
        }}
      >
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, pl: 2, pr: 1, height: 34 }}>
          <Tooltip title={`${purpose}. ${help}`}>
            <Box component="h2" tabIndex={0} sx={{ m: 0, fontSize: 14, fontWeight: 650 }}>
              {title}
            </Box>
          </Tooltip>
          {legend}
          <Box sx={{ flex: 1 }} />
          <Button
            color="inherit"
            disabled={index === 0}
            onClick={() => session.moveStage(stage.id, index - 1)}
            aria-label="Move stage earlier"
          >
            ◂ Earlier
          </Button>
          <Button
            color="inherit"
            disabled={index === last}
            onClick={() => session.moveStage(stage.id, index + 1)}
            aria-label="Move stage later"
          >
            Later ▸
          </Button>
          <Button color="inherit" onClick={() => session.removeStage(stage.id)}>
            Remove
          </Button>
        </Box>
        <Box sx={{ flex: 1, minHeight: 0, position: 'relative' }}>{picture}</Box>
      </Box>
      <Box
        sx={{
          px: 2,
          pt: 1,
          pb: 1,
          display: 'flex',
          flexDirection: 'column',
          gap: 0.5,
          minHeight: 0,
          overflowY: 'auto',
        }}
      >
        {children}
        <InOut index={index} />
      </Box>
    </Box>
  );
}

/** A colour and what it stands for. */
export function Key({ color, children }: { color: string; children: ReactNode }) {
  return (
    <Box
      component="span"
      sx={{
        display: 'inline-flex',
        alignItems: 'center',
        gap: 0.75,
        fontSize: 12,
        color: 'text.secondary',
        whiteSpace: 'nowrap',
      }}
    >
      <Box sx={{ width: 10, height: 10, borderRadius: 0.5, bgcolor: color }} />
      {children}
    </Box>
  );
}
