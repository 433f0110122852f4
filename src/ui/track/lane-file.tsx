'use client';

import Button from '@mui/material/Button';
import ListItemText from '@mui/material/ListItemText';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useRef, useState } from 'react';
import { parseLane } from '../../core/lane/schema';
import { useEditor, useLane, useTrack } from './context';
import { saveFile } from './save-file';

/** Saves the lane as a file, and opens one. */
export function LaneFile() {
  const editor = useEditor();
  const lane = useLane((state) => state.version.lane);
  const title = useTrack((state) => state.details.track.title);
  const version = useLane((state) => state.version.name);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const input = useRef<HTMLInputElement>(null);

  const save = () => {
    setAnchor(null);
    saveFile(`${title} - ${version}.lane.json`, JSON.stringify(lane, null, 2), 'application/json');
  };
  const open = async (file: File | undefined) => {
    if (!file) return;
    try {
      const lane = parseLane(JSON.parse(await file.text()));
      editor.lane.editLane(`Open ${file.name}`.slice(0, 80), () => lane);
    } catch (error) {
      const reason = error instanceof SyntaxError ? 'It is not JSON.' : (error as Error).message;
      editor.track.report(`${file.name}: ${reason} Choose a lane file saved here.`);
    }
  };

  return (
    <>
      <Button color="inherit" onClick={(event) => setAnchor(event.currentTarget)}>
        Lane file
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        <MenuItem onClick={save}>
          <ListItemText
            primary="Save this lane as a file"
            secondary="Every stage with its settings, to keep or to share"
          />
        </MenuItem>
        <MenuItem
          onClick={() => {
            setAnchor(null);
            input.current?.click();
          }}
        >
          <ListItemText
            primary="Open a lane file…"
            secondary="Replaces the stages and crossovers of this version; undo restores them"
          />
        </MenuItem>
      </Menu>
      <input
        ref={input}
        type="file"
        accept=".json,application/json"
        aria-label="Lane file to open"
        hidden
        onChange={({ target }) => {
          void open(target.files?.[0]);
          target.value = '';
        }}
      />
    </>
  );
}
