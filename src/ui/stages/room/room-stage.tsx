'use client';

import ListIcon from '@mui/icons-material/FormatListBulleted';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Tooltip from '@mui/material/Tooltip';
import { useEffect, useRef, useState } from 'react';
import type { Stage } from '../../../core/lane/schema';
import { LONGEST_IMPULSE_SECONDS, roomSettings, type RoomSettings } from '../../../core/stages/room/settings';
import type { ImpulseSummary } from '../../../contracts/impulse';
import { api } from '../../api';
import { figure } from '../../kit/format';
import { usePalette } from '../../theme/use-palette';
import { useSession } from '../../track/context';
import { Key, StageFrame } from '../stage-frame';
import { StageSetting } from '../stage-setting';
import { ImpulsesDialog } from './impulses-dialog';
import { RoomPicture } from './room-picture';

const CONTROLS = ['wetDb', 'preDelayMs', 'highPassHz', 'lowPassHz'] as const;
const OWN = [
  { key: 'studio', title: 'Studio, 0.4 s' },
  { key: 'hall', title: 'Hall, 1.8 s' },
] as const;

/** Chooses a room, or puts an impulse response in. */
function ImpulseChooser({ stage }: { stage: Extract<Stage, { kind: 'room' }> }) {
  const session = useSession();
  const [files, setFiles] = useState<ImpulseSummary[]>([]);
  const [busy, setBusy] = useState(false);
  const [listed, setListed] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    api<ImpulseSummary[]>('/api/impulses')
      .then(setFiles)
      .catch((error: Error) => session.report(error.message));
  }, [session]);
  const { response, file } = stage.settings;
  const choose = (settings: Partial<RoomSettings>) => session.setStage(stage, 'Room', settings);
  const putIn = async (chosen: File | undefined) => {
    if (!chosen) return;
    setBusy(true);
    try {
      const query = new URLSearchParams({ name: chosen.name });
      const answer = await fetch(`/api/impulses?${query}`, { method: 'POST', body: chosen });
      const body = (await answer.json()) as ImpulseSummary & { error?: string };
      if (!answer.ok) throw new Error(body.error);
      setFiles((known) => [...known, body]);
      choose({ response: 'file', file: body.id });
    } catch (error) {
      session.report((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, minHeight: 34 }}>
      <Select
        size="small"
        value={response === 'file' ? (file ?? '') : response}
        inputProps={{ 'aria-label': 'Room' }}
        sx={{ height: 28, fontSize: 12.5, bgcolor: 'background.paper', flex: 1, minWidth: 0 }}
        onChange={({ target: { value } }) => {
          const own = OWN.find(({ key }) => key === value);
          choose(own ? { response: own.key, file: null } : { response: 'file', file: value });
        }}
      >
        {OWN.map(({ key, title }) => (
          <MenuItem key={key} value={key}>
            {title}
          </MenuItem>
        ))}
        {files.map(({ id, name, seconds }) => (
          <MenuItem key={id} value={id}>
            {name}, {figure(seconds)} s
          </MenuItem>
        ))}
      </Select>
      <Tooltip
        title={`A WAV file with the impulse response of a room, up to ${LONGEST_IMPULSE_SECONDS} s; it is converted to the rate of the mix`}
      >
        <span>
          <Button variant="outlined" disabled={busy} onClick={() => input.current?.click()}>
            {busy ? 'Putting in…' : 'Put one in…'}
          </Button>
        </span>
      </Tooltip>
      {files.length > 0 && (
        <Tooltip title="All impulse impulses that were put in; take away what no room uses">
          <IconButton size="small" aria-label="All impulse impulses" onClick={() => setListed(true)}>
            <ListIcon fontSize="small" />
          </IconButton>
        </Tooltip>
      )}
      {listed && (
        <ImpulsesDialog
          files={files}
          onRemoved={(id) => setFiles((known) => known.filter((each) => each.id !== id))}
          onClose={() => setListed(false)}
        />
      )}
      <input
        ref={input}
        type="file"
        accept="audio/*,.wav"
        aria-label="Impulse response to put in"
        hidden
        onChange={({ target }) => {
          void putIn(target.files?.[0]);
          target.value = '';
        }}
      />
    </Box>
  );
}

/** A touch of a room, and when not to use it. */
export function RoomStage({ stage, index }: { stage: Extract<Stage, { kind: 'room' }>; index: number }) {
  const palette = usePalette();
  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={
        <>
          <Key color={palette.copper}>untouched sound</Key>
          <Key color={palette.patina}>the room’s answer</Key>
        </>
      }
      picture={<RoomPicture stage={stage} />}
    >
      <ImpulseChooser stage={stage} />
      {CONTROLS.map((name) => (
        <StageSetting key={name} stage={stage} shape={roomSettings.shape} name={name} />
      ))}
      <Box sx={{ fontSize: 12.5, color: 'text.secondary', pt: 0.5 }}>
        Leave it out when the mix has rooms of its own, when it is dense or loud, or when something in it wants mending:
        a room blurs what is sharp, and costs punch and level.
      </Box>
    </StageFrame>
  );
}
