'use client';

import { z } from 'zod';
import ListIcon from '@mui/icons-material/FormatListBulleted';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import Tooltip from '@mui/material/Tooltip';
import { useEffect, useRef, useState } from 'react';
import { sentenceOf } from '../../../core/sentence-of';
import { LONGEST_IMPULSE_SECONDS, roomSettings, type RoomSettings } from '../../../core/stages/room/settings';
import { type ImpulseSummary, impulseSummarySchema } from '../../../contracts/impulse';
import { api } from '../../api';
import { figure } from '../../kit/format';
import { usePalette } from '../../theme/use-palette';
import { useEditor } from '../../track/context';
import { Key, StageFrame } from '../stage-frame';
import type { PanelProps } from '../stage-panel';
import { useControls } from '../use-controls';
import { describeChoice } from '../../../core/stages/setting';
import { ImpulsesDialog } from './impulses-dialog';
import { RoomPicture } from './room-picture';

const CONTROLS = ['wetDb', 'preDelayMs', 'highPassHz', 'lowPassHz'] as const;
const BUILT_IN = describeChoice(roomSettings.shape.impulse).options.filter(({ value }) => value !== 'file');

/** Chooses a room, or uploads an impulse response. */
function ImpulseChooser({ stage }: Pick<PanelProps<'room'>, 'stage'>) {
  const editor = useEditor();
  const [files, setFiles] = useState<ImpulseSummary[]>([]);
  const [busy, setBusy] = useState(false);
  const [listed, setListed] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    api(z.array(impulseSummarySchema), '/api/impulses')
      .then(setFiles)
      .catch((error: Error) => editor.track.report(sentenceOf(error)));
  }, [editor]);
  const { impulse, file } = stage.settings;
  const choose = (settings: Partial<RoomSettings>) => editor.lane.setStage(stage, 'Room', settings);
  const send = async (chosen: File | undefined) => {
    if (!chosen) return;
    setBusy(true);
    try {
      const query = new URLSearchParams({ name: chosen.name });
      const answer = await fetch(`/api/impulses?${query}`, { method: 'POST', body: chosen });
      const body = (await answer.json()) as ImpulseSummary & { error?: string };
      if (!answer.ok) throw new Error(body.error);
      setFiles((known) => [...known, body]);
      choose({ impulse: 'file', file: body.id });
    } catch (error) {
      editor.track.report(sentenceOf(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, minHeight: 34 }}>
      <Select
        size="small"
        value={impulse === 'file' ? (file ?? '') : impulse}
        inputProps={{ 'aria-label': 'Room' }}
        sx={{ height: 28, fontSize: 12.5, bgcolor: 'background.paper', flex: 1, minWidth: 0 }}
        onChange={({ target: { value } }) => {
          const builtIn = BUILT_IN.find((each) => each.value === value);
          choose(builtIn ? { impulse: builtIn.value, file: null } : { impulse: 'file', file: value });
        }}
      >
        {BUILT_IN.map(({ value, title }) => (
          <MenuItem key={value} value={value}>
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
            {busy ? 'Uploading…' : 'Upload…'}
          </Button>
        </span>
      </Tooltip>
      {files.length > 0 && (
        <Tooltip title="Your impulse responses; remove the ones that no room uses">
          <IconButton size="small" aria-label="All impulse responses" onClick={() => setListed(true)}>
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
        aria-label="Impulse response to upload"
        hidden
        onChange={({ target }) => {
          void send(target.files?.[0]);
          target.value = '';
        }}
      />
    </Box>
  );
}

/** A touch of room, and when to leave it out. */
export function RoomPanel({ stage, index }: PanelProps<'room'>) {
  const palette = usePalette();
  const { quantity } = useControls(stage);
  return (
    <StageFrame
      stage={stage}
      index={index}
      legend={
        <>
          <Key color={palette.copper}>dry sound</Key>
          <Key color={palette.patina}>room</Key>
        </>
      }
      picture={<RoomPicture stage={stage} />}
    >
      <ImpulseChooser stage={stage} />
      {CONTROLS.map((name) => quantity(name))}
      <Box sx={{ fontSize: 12.5, color: 'text.secondary', pt: 0.5 }}>
        Leave it out when the mix has its own reverb, when it is dense or loud, or when something in it wants fixing: a
        room blurs what is sharp, and costs punch and level.
      </Box>
    </StageFrame>
  );
}
