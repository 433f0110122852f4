'use client';

import Box from '@mui/material/Box';
import Tooltip from '@mui/material/Tooltip';
import { useShallow } from 'zustand/react/shallow';
import { figure } from '../kit/format';
import { useCanvas } from '../kit/use-canvas';
import { FIGURE_FACE, TEXT_FACE } from '../theme/theme';
import { usePalette } from '../theme/use-palette';
import { useAudition, useEditor, useHeard, useLiveReadings, useTransport } from './context';
import { departures } from './monitors';
import { drawOutputMeter } from './draw-output-meter';

function finite(lufs: number | undefined): string {
  return lufs === undefined || lufs === -Infinity ? '–' : figure(lufs);
}

/** What the meter measures, and what is heard where that is something else. */
const CAPTION = {
  ...{ fontFamily: TEXT_FACE, color: 'text.secondary', lineHeight: 1.1, pl: '16px' },
  ...{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' },
} as const;

/** Sample and true peak of both channels, held, and loudness of what is heard. */
export function OutputMeter() {
  const { board } = useEditor();
  const palette = usePalette();
  const entry = useHeard();
  const difference = useAudition((state) => state.difference);
  const different = useAudition(useShallow(departures));
  const soloRegion = useAudition((state) => state.soloRegion);
  const hearsRemoved = useAudition((state) => state.hearsRemoved);
  const playing = useTransport((state) => state.playing);
  const readings = useLiveReadings();
  const canvas = useCanvas((surface) => {
    const { latest, held } = board;
    const bar = entry.what.kind === 'mix' ? palette.copper : palette.patina;
    const channels = [0, 1].map((channel) => ({
      sampleDbfs: latest?.heard.samplePeaksDbfs[channel] ?? -Infinity,
      trueDbtp: latest?.heard.truePeaksDbtp[channel] ?? -Infinity,
      heldDbtp: held.true[channel].value,
    }));
    drawOutputMeter(surface, channels, bar, palette);
  }, playing);

  const otherwise = [
    difference ? 'the change' : '',
    hearsRemoved ? 'what is removed' : '',
    soloRegion ? 'a region' : '',
    ...different.map((each) => each[0].toLowerCase() + each.slice(1)),
  ].filter(Boolean);
  const caption = otherwise.length > 0 ? `${entry.short}; heard: ${otherwise.join(', ')}` : entry.short;
  const held = Math.max(...board.held.true.map(({ value }) => value));
  const sampleHeld = Math.max(...board.held.sample.map(({ value }) => value));
  const peak = (value: number) => (value > -80 ? figure(value) : '–');
  const rows = [
    ['M', finite(readings?.heard.momentaryLufs), 'Momentary loudness, LUFS'],
    ['S', finite(readings?.heard.shortTermLufs), 'Short-term loudness, LUFS'],
    ['I', finite(readings?.heard.integratedLufs), 'Integrated loudness since playback started, LUFS'],
  ];
  return (
    <Tooltip title={`${caption}. The meter shows it in stereo, before level matching and before what you listen to`}>
      <Box
        role="group"
        aria-label="Output meter"
        tabIndex={0}
        sx={{
          ...{ display: 'flex', alignItems: 'center', gap: 1.25, fontFamily: FIGURE_FACE, fontSize: 12 },
          // On a phone it has a line of its own.
          ...{ flex: { xs: '1 0 100%', sm: '1 1 0' }, minWidth: 0, maxWidth: 460, ml: 'auto' },
        }}
      >
        {/* It takes what the bar leaves, and grows with the window. */}
        <Box sx={{ flex: '1 1 0', minWidth: 88, width: 0 }}>
          <Box data-testid="metered" sx={CAPTION}>
            {caption}
          </Box>
          <canvas ref={canvas} style={{ display: 'block', width: '100%', height: 42 }} aria-hidden />
        </Box>
        <Box
          component="dl"
          sx={{
            m: 0,
            display: 'grid',
            gridTemplateColumns: 'auto 5.5ch',
            columnGap: 1,
            lineHeight: 1.3,
            '& dt': { color: 'text.secondary' },
            '& dd': { m: 0, textAlign: 'right' },
          }}
        >
          <dt title="Held true peak, dBTP">TP</dt>
          <dd data-testid="held-true-peak">{peak(held)}</dd>
          <dt title="Held sample peak, dBFS">SP</dt>
          <dd>{peak(sampleHeld)}</dd>
        </Box>
        <Box
          component="dl"
          sx={{
            m: 0,
            display: 'grid',
            gridTemplateColumns: 'auto 6ch',
            columnGap: 1,
            lineHeight: 1.3,
            '& dt': { color: 'text.secondary' },
            '& dd': { m: 0, textAlign: 'right' },
          }}
        >
          {rows.map(([name, value, title]) => (
            <Box key={name} sx={{ display: 'contents' }}>
              <dt title={title}>{name}</dt>
              <dd aria-label={title}>{value}</dd>
            </Box>
          ))}
        </Box>
      </Box>
    </Tooltip>
  );
}
