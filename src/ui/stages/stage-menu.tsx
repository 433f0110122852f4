'use client';

import MoreIcon from '@mui/icons-material/MoreHoriz';
import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import IconButton from '@mui/material/IconButton';
import List from '@mui/material/List';
import ListItemButton from '@mui/material/ListItemButton';
import ListItemText from '@mui/material/ListItemText';
import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Tooltip from '@mui/material/Tooltip';
import Link from 'next/link';
import { useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import {
  alternativeName,
  alternativesOf,
  heardAlternative,
  withAlternativeCopied,
  withAlternativeNamed,
  withAlternativeRemoved,
} from '../../core/lane/alternatives';
import { MAX_STAGES, stageName, stageTitle, type Stage } from '../../core/lane/schema';
import { STAGES } from '../../core/stages/registry';
import { NameDialog } from '../kit/name-dialog';
import { useEditor, useLane, useTrack } from '../track/context';
import { withKey } from '../track/key-table';

type Answer = { severity: 'success' | 'error'; words: string; trackId: string };

/** Chooses the track that a stage is copied to, and says what became of it. */
function CopyDialog({ stage, onClose }: { stage: Stage; onClose: () => void }) {
  const editor = useEditor();
  const own = useTrack((state) => state.details.track.id);
  const tracks = useTrack((state) => state.details.tracks);
  const [answer, setAnswer] = useState<Answer | null>(null);
  const others = tracks.filter(({ id }) => id !== own);
  const copy = async (trackId: string, name: string) => {
    try {
      const version = await editor.copyStageTo(trackId, stage.id);
      const words = `Copied to ${name}, version “${version}”. Undo there removes it.`;
      setAnswer({ severity: 'success', words, trackId });
    } catch (error) {
      setAnswer({ severity: 'error', words: sentenceOf(error), trackId });
    }
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <DialogTitle>Copy “{stageTitle(stage)}” to another track</DialogTitle>
      <DialogContent>
        {others.length === 0 && 'This release has no other track.'}
        <List aria-label="Tracks">
          {others.map(({ id, title, position }) => (
            <ListItemButton key={id} onClick={() => void copy(id, `${position} · ${title}`)}>
              <ListItemText primary={`${position} · ${title}`} />
            </ListItemButton>
          ))}
        </List>
        {answer && (
          <Alert
            severity={answer.severity}
            action={
              answer.severity === 'success' && (
                <Button component={Link} href={`/tracks/${answer.trackId}`} color="inherit">
                  Open it
                </Button>
              )
            }
          >
            {answer.words}
          </Alert>
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** What can be done with the open stage as a whole. */
export function StageMenu({ stage, index }: { stage: Stage; index: number }) {
  const editor = useEditor();
  const stages = useLane((state) => state.version.lane.stages.length);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [asking, setAsking] = useState<'copy' | 'name' | 'alternative' | null>(null);
  const alternatives = alternativesOf(stage);
  const heard = heardAlternative(stage);
  const heardName = alternatives[heard].name;
  const change = (label: string, how: (stage: Stage) => Stage) =>
    editor.lane.changeAlternatives(stage.id, `${stageTitle(stage)}: ${label.toLowerCase()}`, how);
  const does = (action: () => void) => () => {
    setAnchor(null);
    action();
  };
  return (
    <>
      <Tooltip title="Duplicate, name, copy, move or remove this stage">
        <IconButton size="small" aria-label="Stage menu" onClick={(event) => setAnchor(event.currentTarget)}>
          <MoreIcon fontSize="small" />
        </IconButton>
      </Tooltip>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        <MenuItem disabled={stages >= MAX_STAGES} onClick={does(() => editor.duplicateStage(stage.id))}>
          <ListItemText primary="Duplicate" secondary={withKey('Inserts a copy right after it', 'duplicate')} />
        </MenuItem>
        <MenuItem onClick={does(() => setAsking('name'))}>
          <ListItemText primary="Name…" secondary="Says what it is for, on the ribbon and in tables" />
        </MenuItem>
        <MenuItem onClick={does(() => setAsking('copy'))}>
          <ListItemText primary="Copy to another track…" secondary="With its settings, into the lane open there" />
        </MenuItem>
        <MenuItem disabled={index === 0} onClick={does(() => editor.lane.move(stage.id, index - 1))}>
          Move earlier
        </MenuItem>
        <MenuItem disabled={index === stages - 1} onClick={does(() => editor.lane.move(stage.id, index + 1))}>
          Move later
        </MenuItem>
        <MenuItem onClick={does(() => editor.removeStage(stage.id))}>Remove</MenuItem>
        {alternatives.length > 1 && <Divider />}
        {alternatives.length > 1 && (
          <MenuItem onClick={does(() => setAsking('alternative'))}>Name alternative “{heardName}”…</MenuItem>
        )}
        {alternatives.map(
          ({ name }, place) =>
            place !== heard && (
              <MenuItem
                key={place}
                onClick={does(() =>
                  change(`Copy ${heardName} to ${name}`, (each) => withAlternativeCopied(each, place)),
                )}
              >
                Copy alternative “{heardName}” to “{name}”
              </MenuItem>
            ),
        )}
        {alternatives.length > 1 && (
          <MenuItem onClick={does(() => change(`Remove ${heardName}`, (each) => withAlternativeRemoved(each, heard)))}>
            Remove alternative “{heardName}”
          </MenuItem>
        )}
      </Menu>
      {asking === 'copy' && <CopyDialog stage={stage} onClose={() => setAsking(null)} />}
      {asking === 'alternative' && (
        <NameDialog
          title={`Name alternative “${heardName}”`}
          hint="Such as “slow” or “more air”"
          action="Name"
          name={heardName}
          schema={alternativeName}
          onName={(name) => change(`Name alternative ${name}`, (each) => withAlternativeNamed(each, heard, name))}
          onClose={() => setAsking(null)}
        />
      )}
      {asking === 'name' && (
        <NameDialog
          title={`Name this ${STAGES[stage.kind].title.toLowerCase()}`}
          hint={`What it is for; empty goes back to “${STAGES[stage.kind].title}”`}
          action="Name"
          name={stage.name ?? ''}
          schema={stageName}
          onName={(name) => editor.lane.nameStage(stage.id, name)}
          onClose={() => setAsking(null)}
        />
      )}
    </>
  );
}
