'use client';

import HistoryIcon from '@mui/icons-material/HistoryOutlined';
import NextIcon from '@mui/icons-material/ChevronRight';
import PreviousIcon from '@mui/icons-material/ChevronLeft';
import RedoIcon from '@mui/icons-material/Redo';
import UndoIcon from '@mui/icons-material/Undo';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import IconButton from '@mui/material/IconButton';
import ListItemText from '@mui/material/ListItemText';
import MenuItem from '@mui/material/MenuItem';
import Popover from '@mui/material/Popover';
import Select from '@mui/material/Select';
import Tooltip from '@mui/material/Tooltip';
import Link from 'next/link';
import { useState } from 'react';
import { newVersionSchema } from '../../contracts/version';
import { count, dateAndTime } from '../kit/format';
import { NameDialog } from '../kit/name-dialog';
import { Crumbs } from '../kit/page';
import { ThemeSwitch } from '../kit/theme-switch';
import { useEditor, useLane, useTrack } from './context';
import { withKey } from './key-table';
import { DestinationsButton } from './destinations';
import { HistoryList } from './history-list';
import { CompareDialog } from './compare/compare-dialog';
import { ProposalsButton } from './proposals/proposals-button';
import { NotesButton } from './notes/notes-button';
import { LaneMenu } from './lane-menu';
import { useLayout } from './layout';
import { MixChooser } from './mix-chooser';
import { VersionsDialog } from './versions-dialog';

const KEEP = 'keep';
const COMPARE = 'compare';
const MANAGE = 'manage';
const SIDE_BY_SIDE = 'side by side';

function VersionChooser({ onCompare }: { onCompare: () => void }) {
  const editor = useEditor();
  const version = useLane((state) => state.version);
  const versions = useTrack((state) => state.details.versions);
  const [keeping, setKeeping] = useState(false);
  const [managing, setManaging] = useState(false);
  const [beside, setBeside] = useState(false);
  const layout = useLayout();
  const choose = (value: string) => {
    if (value === KEEP) setKeeping(true);
    else if (value === MANAGE) setManaging(true);
    else if (value === COMPARE) onCompare();
    else if (value === SIDE_BY_SIDE) setBeside(true);
    else void editor.switchVersion(value);
  };
  return (
    <>
      <Select
        size="small"
        value={version.id}
        inputProps={{ 'aria-label': 'Version' }}
        renderValue={() => (layout === 'narrow' ? version.name : `Version: ${version.name}`)}
        onChange={({ target }) => choose(target.value)}
        sx={{ height: 28, fontSize: 13, bgcolor: 'background.paper', maxWidth: layout === 'narrow' ? 150 : 240 }}
      >
        {versions.map(({ id, name: title, createdAt }) => (
          <MenuItem key={id} value={id}>
            <ListItemText primary={title} secondary={dateAndTime(createdAt)} />
          </MenuItem>
        ))}
        <Divider />
        <MenuItem value={KEEP}>Save as a new version…</MenuItem>
        <MenuItem value={MANAGE}>Rename, reorder or delete versions…</MenuItem>
        <MenuItem value={SIDE_BY_SIDE}>Two versions side by side…</MenuItem>
        <MenuItem value={COMPARE}>Compare versions at equal loudness…</MenuItem>
      </Select>
      {beside && <CompareDialog onClose={() => setBeside(false)} />}
      {managing && <VersionsDialog onClose={() => setManaging(false)} />}
      {keeping && (
        <NameDialog
          title="Save as a new version"
          hint="Such as “warmer, less 3 kHz”"
          action="Save"
          name=""
          schema={newVersionSchema.shape.name}
          onName={(name) => editor.copyVersion(name)}
          onClose={() => setKeeping(false)}
        />
      )}
    </>
  );
}

function SavedState() {
  const editor = useEditor();
  const saving = useLane((state) => state.saving);
  const waiting = useLane((state) => state.unsaved.length);
  if (saving === 'waiting') {
    return (
      <Tooltip title="The server can’t be reached. Go on working: every step is kept here and sent in order when it is back.">
        <Box component="span" role="status" tabIndex={0} sx={{ color: 'warning.main', fontWeight: 650 }}>
          {count(waiting, 'step')} to be saved
        </Box>
      </Tooltip>
    );
  }
  if (saving === 'failed') {
    return (
      <Button color="error" onClick={() => void editor.lane.flush()}>
        Not saved: try again
      </Button>
    );
  }
  return (
    <Box component="span" role="status" sx={{ color: 'text.secondary', minWidth: 52 }}>
      {saving === 'saved' ? 'Saved' : 'Saving'}
    </Box>
  );
}

/** Opens the steps of the version. */
function HistoryButton() {
  const [at, setAt] = useState<HTMLElement | null>(null);
  return (
    <>
      <Tooltip title="History: every step with its figures">
        <IconButton size="small" aria-label="History" onClick={({ currentTarget }) => setAt(currentTarget)}>
          <HistoryIcon fontSize="small" />
        </IconButton>
      </Tooltip>
      <Popover
        open={at !== null}
        anchorEl={at}
        onClose={() => setAt(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        slotProps={{
          paper: { 'aria-label': 'History', role: 'dialog', sx: { width: 340, maxHeight: '70vh', p: 1.5 } },
        }}
      >
        <HistoryList />
      </Popover>
    </>
  );
}

/** Where one is, versions, history, and the way to deliver. */
export function Head({
  onDeliver,
  onKeys,
  onMixChosen,
  onCompare,
  notes,
  onNotes,
}: {
  onDeliver: () => void;
  onKeys: () => void;
  onMixChosen: () => void;
  onCompare: () => void;
  notes: boolean;
  onNotes: (open: boolean) => void;
}) {
  const editor = useEditor();
  const layout = useLayout();
  const phone = layout === 'phone';
  const { release, track, previousTrackId, nextTrackId } = useTrack((state) => state.details);
  const undo = useLane((state) => state.undo);
  const redo = useLane((state) => state.redo);
  const neighbour = (id: string | null, title: string, Icon: typeof NextIcon) => (
    <IconButton
      size="small"
      component={id ? Link : 'button'}
      href={id ? `/tracks/${id}` : undefined}
      disabled={!id}
      aria-label={title}
    >
      <Icon fontSize="small" />
    </IconButton>
  );
  return (
    <Box
      component="header"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: phone ? 0.5 : 1.5,
        px: phone ? 1 : 2,
        height: 44,
        borderBottom: 1,
        borderColor: 'divider',
        bgcolor: 'background.paper',
      }}
    >
      <Crumbs
        heading
        crumbs={[
          ...(phone || layout === 'narrow' ? [] : [{ title: 'Releases', href: '/' }]),
          { title: release.title, href: `/releases/${release.id}` },
          { title: `${track.position} · ${track.title}` },
        ]}
      />
      <Box sx={{ display: 'flex' }}>
        {neighbour(previousTrackId, 'Previous track', PreviousIcon)}
        {neighbour(nextTrackId, 'Next track', NextIcon)}
      </Box>
      {!phone && (
        <>
          <MixChooser onChosen={onMixChosen} />
          <VersionChooser onCompare={onCompare} />
          <LaneMenu />
        </>
      )}
      <Box sx={{ flex: 1 }} />
      {!phone && (
        <>
          <Tooltip title={undo ? withKey(`Undo: ${undo}`, 'undo') : 'Nothing to undo'}>
            <span>
              <IconButton size="small" aria-label="Undo" disabled={!undo} onClick={() => void editor.lane.step('undo')}>
                <UndoIcon fontSize="small" />
              </IconButton>
            </span>
          </Tooltip>
          <Tooltip title={redo ? withKey(`Redo: ${redo}`, 'redo') : 'Nothing to redo'}>
            <span>
              <IconButton size="small" aria-label="Redo" disabled={!redo} onClick={() => void editor.lane.step('redo')}>
                <RedoIcon fontSize="small" />
              </IconButton>
            </span>
          </Tooltip>
          <ProposalsButton />
          <NotesButton open={notes} onOpen={onNotes} />
          {(layout === 'full' || layout === 'narrow') && <HistoryButton />}
          <SavedState />
          <Tooltip title={withKey('Keys', 'keys')}>
            <Button color="inherit" aria-label="Keys" onClick={onKeys} sx={{ minWidth: 28 }}>
              ?
            </Button>
          </Tooltip>
        </>
      )}
      <ThemeSwitch />
      {layout === 'narrow' && <DestinationsButton />}
      <Button
        variant="contained"
        onClick={onDeliver}
        sx={{ bgcolor: 'text.primary', color: 'background.default', '&:hover': { bgcolor: 'text.secondary' } }}
      >
        Deliver…
      </Button>
    </Box>
  );
}
