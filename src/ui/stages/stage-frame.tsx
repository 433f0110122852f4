'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Tooltip from '@mui/material/Tooltip';
import type { ReactNode } from 'react';
import { stageTitle, type Stage } from '../../core/lane/schema';
import { STAGES } from '../../core/stages/registry';
import { figure } from '../kit/format';
import { FIGURE_FACE } from '../theme/theme';
import { useCandidates, useEditor, useLiveReadings, useMeasurements, useTransport } from '../track/context';
import { Alternatives } from './alternatives';
import { StageMenu } from './stage-menu';
import { KEYS, withKey } from '../track/key-table';
import { STALE, useStale } from '../track/stale';

/** Loudness and peaks into and out of a stage, side by side: live while playing, else of the whole track. */
function InOut({ index }: { index: number }) {
  const readings = useLiveReadings();
  const playing = useTransport((state) => state.playing);
  const joints = useMeasurements((state) => state.measurement?.joints);
  const stale = useStale() && !playing;
  const row = (name: string, joint: number) => {
    const live = playing ? readings?.joints[joint] : undefined;
    const reading = joints?.[joint];
    const figures = live
      ? [live.momentaryLufs, live.samplePeakDbfs, live.truePeakDbtp]
      : [reading?.integratedLufs, reading?.samplePeakDbfs, reading?.truePeakDbtp];
    return (
      <tr>
        <th scope="row">{name}</th>
        {figures.map((value, i) => (
          <td key={i}>{value === undefined ? '–' : figure(value)}</td>
        ))}
      </tr>
    );
  };
  return (
    <Box
      component="table"
      aria-label="Level in and out"
      sx={{
        ...{ mt: 'auto', pt: 0.75, position: 'sticky', bottom: -8, bgcolor: 'background.default', zIndex: 1 },
        ...{ borderTop: 1, borderColor: 'divider', fontSize: 12.5, borderSpacing: 0 },
        '& th': { fontWeight: 400, color: 'text.secondary', textAlign: 'right', p: 0, lineHeight: 1.45 },
        '& th:first-of-type': { textAlign: 'left' },
        '& td': { fontFamily: FIGURE_FACE, textAlign: 'right', p: 0 },
        ...(stale && STALE),
      }}
    >
      <thead>
        <tr>
          <th scope="col">{playing ? 'now' : 'whole track'}</th>
          <th scope="col">LUFS</th>
          <th scope="col">sample dBFS</th>
          <th scope="col">true dBTP</th>
        </tr>
      </thead>
      <tbody>
        {row('in', index)}
        {row('out', index + 1)}
      </tbody>
    </Box>
  );
}

/** Compares the master with the lane without this stage. */
function HearWithout({ stage }: { stage: Stage }) {
  const editor = useEditor();
  const entry = useCandidates(({ entries }) =>
    entries.find(({ what }) => what.kind === 'without' && what.stage === stage.id),
  );
  return (
    <Tooltip
      title={withKey(
        `Hear the master without “${stageTitle(stage)}”, level-matched; ${KEYS.other.label} then switches between with and without, ${KEYS.change.label} plays the difference`,
        'without',
      )}
    >
      <span>
        <Button
          variant={entry ? 'contained' : 'outlined'}
          aria-pressed={entry !== undefined}
          disabled={!stage.on}
          onClick={() => editor.hearWithout(stage.id)}
        >
          {entry?.share != null ? `Rendering ${Math.round(100 * entry.share)} %` : 'Hear without'}
        </Button>
      </span>
    </Tooltip>
  );
}

/** The frame of every stage: picture on the left, controls on the right. */
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
  const { title, summary, help } = STAGES[stage.kind];
  const own = stageTitle(stage);
  return (
    <Box
      component="section"
      aria-label={`${title} stage`}
      sx={{ flex: 1, minHeight: 0, display: 'grid', gridTemplateColumns: '1fr minmax(352px, 34%)' }}
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
          <Tooltip title={`${own === title ? '' : `${title}. `}${summary}. ${help}`}>
            <Box component="h2" tabIndex={0} sx={{ m: 0, fontSize: 14, fontWeight: 650 }}>
              {own}
            </Box>
          </Tooltip>
          {own !== title && (
            <Box component="span" sx={{ fontSize: 12, color: 'text.secondary' }}>
              {title.toLowerCase()}
            </Box>
          )}
          {legend}
          <Box sx={{ flex: 1 }} />
          <Alternatives stage={stage} />
          <HearWithout stage={stage} />
          <StageMenu stage={stage} index={index} />
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
          gap: 0.25,
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
