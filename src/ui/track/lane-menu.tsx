'use client';

import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import ListItemText from '@mui/material/ListItemText';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useRef, useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import { houseOf } from '../../core/house/edit-handles';
import { parseLane } from '../../core/lane/schema';
import { CompareDialog } from './compare/compare-dialog';
import { useEditor, useLane, useTrack } from './context';
import { CopyLaneDialog } from './copy-lane-dialog';
import { FirstDraftDialog } from './first-draft/first-draft-dialog';
import { HouseLanesDialog } from './house/house-lanes-dialog';
import { SaveHouseLane } from './house/save-house-lane';
import { saveFile } from './save-file';

/** Ways to begin a lane, and its file. */
export function LaneMenu() {
  const editor = useEditor();
  const lane = useLane((state) => state.version.lane);
  const title = useTrack((state) => state.details.track.title);
  const tracks = useTrack((state) => state.details.tracks);
  const version = useLane((state) => state.version.name);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const [open, setOpen] = useState<'draft' | 'house' | 'copy' | 'save' | null>(null);
  const [beside, setBeside] = useState<[string, string] | null>(null);

  const close = () => setOpen(null);
  const item = (what: NonNullable<typeof open>, primary: string, secondary: string) => (
    <MenuItem
      onClick={() => {
        setAnchor(null);
        setOpen(what);
      }}
    >
      <ListItemText primary={primary} secondary={secondary} />
    </MenuItem>
  );
  const save = () => {
    setAnchor(null);
    saveFile(`${title} - ${version}.lane.json`, JSON.stringify(lane, null, 2), 'application/json');
  };
  const openFile = async (file: File | undefined) => {
    if (!file) return;
    try {
      const lane = parseLane(JSON.parse(await file.text()));
      editor.lane.beginFrom(`Open ${file.name}`.slice(0, 80), lane);
    } catch (error) {
      const reason = error instanceof SyntaxError ? 'It is not JSON.' : sentenceOf(error);
      editor.track.report(`${file.name}: ${reason} Choose a lane file saved here.`);
    }
  };

  return (
    <>
      <Button color="inherit" onClick={(event) => setAnchor(event.currentTarget)}>
        Lanes
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {item('draft', 'First draft…', 'A lane from what is measured of the mix, each step with its reason')}
        {item('house', 'House lanes…', 'Begin from a lane with overall controls, ours or your own')}
        {tracks.length > 1 &&
          item('copy', 'Copy to other tracks…', 'This lane, for tracks of the release; each keeps its edges')}
        {item('save', 'Save as a house lane…', 'This lane with its handles, to begin other tracks from')}
        {!lane.house && (
          <MenuItem
            onClick={() => {
              setAnchor(null);
              editor.lane.editLane('Add handles', (each) => ({ ...each, house: houseOf(each) }));
            }}
          >
            <ListItemText
              primary="Add handles"
              secondary="Overall controls for this lane, made by pointing at its controls"
            />
          </MenuItem>
        )}
        <Divider />
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
          void openFile(target.files?.[0]);
          target.value = '';
        }}
      />
      {open === 'draft' && <FirstDraftDialog onClose={close} onBoth={setBeside} />}
      {open === 'house' && <HouseLanesDialog onClose={close} />}
      {open === 'copy' && <CopyLaneDialog onClose={close} />}
      {open === 'save' && <SaveHouseLane onClose={close} />}
      {beside && <CompareDialog initial={beside} onClose={() => setBeside(null)} />}
    </>
  );
}
