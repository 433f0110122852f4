'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Popover from '@mui/material/Popover';
import Tooltip from '@mui/material/Tooltip';
import { useMemo, useState, type ReactNode } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { PLACES, type PlaceName } from '../../core/elsewhere/places';
import { placeCurve, placeResponse } from '../../core/elsewhere/response';
import { LISTENING_BANDS } from '../../engine/live/listening-bands';
import { MONITORS } from '../../engine/live/protocol';
import { useAudition, useEditor } from './context';
import { KEYS, withKey } from './key-table';
import { departures, MONITOR_TITLES } from './monitors';

const NAMES = Object.keys(PLACES) as PlaceName[];
/** Of a small curve: size in pixels, and its ranges. */
const WIDTH = 76;
const HEIGHT = 26;
const POINTS = 49;
const [LOWEST_HZ, HIGHEST_HZ] = [30, 16000];
const [TOP_DB, BOTTOM_DB] = [12, -30];
const PICTURE_RATE = 48000;

/** The response of a place, as a path. */
function pathOf(name: PlaceName): string {
  const frequencies = Array.from(
    { length: POINTS },
    (_, i) => LOWEST_HZ * (HIGHEST_HZ / LOWEST_HZ) ** (i / (POINTS - 1)),
  );
  const levels = placeCurve(placeResponse(PLACES[name], PICTURE_RATE), frequencies, PICTURE_RATE);
  const y = (db: number) => (HEIGHT * (TOP_DB - Math.max(BOTTOM_DB, Math.min(TOP_DB, db)))) / (TOP_DB - BOTTOM_DB);
  return levels.map((db, i) => `${i ? 'L' : 'M'}${(WIDTH * i) / (POINTS - 1)} ${y(db)}`).join('');
}

function Curve({ name }: { name: PlaceName }) {
  const path = useMemo(() => pathOf(name), [name]);
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden>
      <line
        x1={0}
        x2={WIDTH}
        y1={HEIGHT * (TOP_DB / (TOP_DB - BOTTOM_DB))}
        y2={HEIGHT * (TOP_DB / (TOP_DB - BOTTOM_DB))}
        stroke="currentColor"
        opacity={0.25}
      />
      <path d={path} fill="none" stroke="currentColor" strokeWidth={1.5} />
    </svg>
  );
}

function Choice({ chosen, onChoose, children }: { chosen: boolean; onChoose: () => void; children: ReactNode }) {
  return (
    <ButtonBase
      aria-pressed={chosen}
      onClick={onChoose}
      sx={{
        ...{
          px: 1,
          minHeight: 28,
          borderRadius: 1,
          justifyContent: 'space-between',
          gap: 1,
          fontSize: 13,
          textAlign: 'left',
        },
        ...(chosen && { bgcolor: 'text.primary', color: 'background.default' }),
      }}
    >
      {children}
    </ButtonBase>
  );
}

function Group({
  title,
  hint,
  columns,
  children,
}: {
  title: string;
  hint: string;
  columns: number;
  children: ReactNode;
}) {
  return (
    <Box role="group" aria-label={title} sx={{ mb: 1.5 }}>
      <Box sx={{ fontSize: 12.5, mb: 0.5 }}>
        <b>{title}</b> <span>{hint}</span>
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: `repeat(${columns}, 1fr)`, gap: 0.25 }}>{children}</Box>
    </Box>
  );
}

function Panel() {
  const { audition } = useEditor();
  const { monitor, band, elsewhere } = useAudition(
    useShallow(({ monitor, band, elsewhere }) => ({ monitor, band, elsewhere })),
  );
  return (
    <>
      <Group title="Channels" hint={`${KEYS.mono.label} for mono`} columns={4}>
        {MONITORS.map((each) => (
          <Choice key={each} chosen={monitor === each} onChoose={() => audition.setMonitor(each)}>
            {MONITOR_TITLES[each]}
          </Choice>
        ))}
      </Group>
      <Group title="Band" hint={`${KEYS.band.label}, from low to high`} columns={3}>
        <Choice chosen={band === null} onChoose={() => audition.soloBand(null)}>
          All
        </Choice>
        {LISTENING_BANDS.map((title, i) => (
          <Choice key={title} chosen={band === i} onChoose={() => audition.soloBand(i)}>
            {title}
          </Choice>
        ))}
      </Group>
      <Group title="Elsewhere" hint="simulated: responses of our own, as loud as here, never in a delivery" columns={2}>
        <Choice chosen={elsewhere === null} onChoose={() => audition.goElsewhere(null)}>
          Here
        </Choice>
        {NAMES.map((name) => (
          <Tooltip key={name} title={`${PLACES[name].help} (simulated)`} placement="right">
            <span style={{ display: 'grid' }}>
              <Choice chosen={elsewhere === name} onChoose={() => audition.goElsewhere(name)}>
                {PLACES[name].title}
                <Curve name={name} />
              </Choice>
            </span>
          </Tooltip>
        ))}
      </Group>
      <Button color="inherit" variant="outlined" onClick={() => audition.listenNormally()}>
        Normal stereo ({KEYS.normal.label})
      </Button>
    </>
  );
}

/** Which channels are heard, which band, and where: nothing is worse than mastering through a simulated phone by mistake. */
export function ListeningPlace() {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const different = useAudition(useShallow(departures));
  return (
    <>
      <Tooltip
        title={withKey(
          different.length > 0 ? `Not normal stereo: ${different.join(', ')}` : 'Channels, bands, and simulated places',
          'normal',
        )}
      >
        <Button
          variant="outlined"
          aria-label={`Listen to: ${different.join(', ') || 'Stereo'}`}
          aria-haspopup="dialog"
          onClick={({ currentTarget }) => setAnchor(currentTarget)}
          sx={{
            ...{ width: 104, height: 30, flexShrink: 0, justifyContent: 'flex-start', whiteSpace: 'nowrap' },
            ...(different.length > 0 && {
              ...{ bgcolor: 'warning.main', color: 'background.paper', borderColor: 'warning.main' },
              '&:hover': { bgcolor: 'warning.dark' },
            }),
          }}
        >
          <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
            {different.join(', ') || 'Stereo'}
          </Box>
        </Button>
      </Tooltip>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{ paper: { role: 'dialog', 'aria-label': 'Listen to', sx: { width: 520, p: 2 } } }}
      >
        <Panel />
      </Popover>
    </>
  );
}

/** Says across the whole page that what is heard is not the programme as it will be delivered. */
export function NotNormal() {
  const { audition } = useEditor();
  const different = useAudition(useShallow(departures));
  if (different.length === 0) return null;
  return (
    <Box
      role="status"
      sx={{
        ...{ display: 'flex', alignItems: 'center', gap: 2, px: 2, minHeight: 26, fontSize: 13, fontWeight: 650 },
        ...{ bgcolor: 'warning.main', color: 'background.paper' },
      }}
    >
      <span>Not normal stereo: {different.join(', ')}</span>
      <Button size="small" color="inherit" onClick={() => audition.listenNormally()} sx={{ py: 0, minHeight: 24 }}>
        Back to normal ({KEYS.normal.label})
      </Button>
    </Box>
  );
}
