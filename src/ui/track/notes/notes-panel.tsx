'use client';

import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import TextField from '@mui/material/TextField';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { newNoteSchema, NOTE_KINDS, type Note, type NoteKind } from '../../../contracts/note';
import { FIGURE_FACE } from '../../theme/theme';
import { useEditor, useLiveReadings, useNotes, useTrack, useTransport } from '../context';
import { KEYS, withKey } from '../key-table';
import { NOTE_TITLES, notesAsText, noteTime } from './note-text';

function KindSelect({ label, kind, onKind }: { label: string; kind: NoteKind; onKind: (kind: NoteKind) => void }) {
  return (
    <Select
      size="small"
      value={kind}
      inputProps={{ 'aria-label': label }}
      onChange={({ target }) => onKind(target.value)}
      sx={{ fontSize: 13, height: 30, width: 104, flexShrink: 0 }}
    >
      {NOTE_KINDS.map((each) => (
        <MenuItem key={each} value={each}>
          {NOTE_TITLES[each]}
        </MenuItem>
      ))}
    </Select>
  );
}

/** Writes a note at the place that is heard, or over the loop. */
function NewNote() {
  const editor = useEditor();
  const loop = useTransport((state) => state.loop);
  const [kind, setKind] = useState<NoteKind>('fault');
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  // The place where one began to write counts, not where the music has got to meanwhile.
  const [begun, setBegun] = useState(() => editor.navigation.noteSpan());
  useLiveReadings();
  const here = loop || text === '' ? editor.navigation.noteSpan() : begun;
  const add = async () => {
    const note = { kind, text, ...here };
    const checked = newNoteSchema.safeParse(note);
    if (!checked.success) return setProblem(checked.error.issues[0].message);
    setProblem(null);
    if (await editor.notes.add(checked.data)) setText('');
  };
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
      sx={{ display: 'flex', gap: 1, alignItems: 'flex-start', my: 1 }}
    >
      <KindSelect label="Kind of the new note" kind={kind} onKind={setKind} />
      <TextField
        autoFocus
        fullWidth
        size="small"
        placeholder={kind === 'loop' ? 'Name of the loop' : 'What is to be done here'}
        value={text}
        error={problem !== null}
        helperText={problem}
        onChange={({ target }) => {
          if (text === '') setBegun(editor.navigation.noteSpan());
          setText(target.value);
        }}
        slotProps={{ htmlInput: { 'aria-label': 'New note' } }}
        sx={{ '& input': { py: 0.6, fontSize: 13 } }}
      />
      <Tooltip
        title={loop ? 'A note on the passage that is looped' : 'A note at this place; with a loop on, one on the loop'}
      >
        <Button type="submit" variant="outlined" sx={{ flexShrink: 0, whiteSpace: 'nowrap' }}>
          Add at {noteTime(here)}
        </Button>
      </Tooltip>
    </Box>
  );
}

function Line({ note }: { note: Note }) {
  const editor = useEditor();
  const [text, setText] = useState(note.text);
  const { id, kind, author } = note;
  const keep = () => {
    const next = text.trim();
    if (next === '') setText(note.text);
    else if (next !== note.text) editor.notes.change(id, { text: next });
  };
  return (
    <Box
      component="li"
      sx={{ display: 'flex', gap: 1, alignItems: 'center', py: 0.5, borderBottom: 1, borderColor: 'divider' }}
    >
      <Tooltip title={note.endSeconds === null ? 'Go there' : 'Loop this passage'}>
        <Button
          color="inherit"
          onClick={() => editor.navigation.goToNote(note)}
          sx={{ fontFamily: FIGURE_FACE, fontWeight: 400, fontSize: 12.5, px: 0.5, minWidth: 62, flexShrink: 0 }}
        >
          {noteTime(note)}
        </Button>
      </Tooltip>
      <KindSelect
        label={`Kind of “${note.text}”`}
        kind={kind}
        onKind={(next) => editor.notes.change(id, { kind: next })}
      />
      <TextField
        fullWidth
        multiline
        size="small"
        variant="standard"
        value={text}
        onChange={({ target }) => setText(target.value)}
        onBlur={keep}
        helperText={author && `From ${author}, on the listening page`}
        slotProps={{
          htmlInput: { 'aria-label': `Text of the note at ${noteTime(note)}` },
          input: { disableUnderline: true },
        }}
        sx={{ '& textarea': { fontSize: 13, ...(kind === 'done' && { color: 'text.secondary' }) } }}
      />
      <Tooltip title="Delete this note">
        <IconButton size="small" aria-label={`Delete “${note.text}”`} onClick={() => editor.notes.remove(id)}>
          <DeleteIcon fontSize="small" />
        </IconButton>
      </Tooltip>
    </Box>
  );
}

/** The notes on the programme: written, filtered, copied as text. */
export function NotesPanel() {
  const editor = useEditor();
  const notes = useNotes((state) => state.notes);
  const details = useTrack((state) => state.details);
  const [kind, setKind] = useState<NoteKind | null>(null);
  const [copied, setCopied] = useState(false);
  const shown = notes.filter((note) => kind === null || note.kind === kind);
  const copy = async () => {
    const title = `${details.release.title}: ${details.track.title}, mix ${details.mix?.number ?? ''}`;
    await navigator.clipboard.writeText(notesAsText(title, shown)).then(
      () => setCopied(true),
      () =>
        editor.track.report(
          'The notes could not be copied: the browser did not allow it. Select and copy them by hand.',
        ),
    );
  };
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Typography variant="h3" component="h2" sx={{ flex: 1 }}>
          Notes
        </Typography>
        <Button color="inherit" disabled={shown.length === 0} onClick={() => void copy()}>
          {copied ? 'Copied' : 'Copy as text'}
        </Button>
      </Box>
      <NewNote />
      <Box role="group" aria-label="Show" sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', mb: 0.5 }}>
        {([null, ...NOTE_KINDS] as const).map((each) => (
          <Button
            key={each ?? 'all'}
            size="small"
            color="inherit"
            aria-pressed={kind === each}
            onClick={() => setKind(each)}
            sx={{
              py: 0,
              minHeight: 26,
              ...(kind === each && { bgcolor: 'text.primary', color: 'background.default' }),
            }}
          >
            {each === null ? 'All' : NOTE_TITLES[each]}{' '}
            {each === null ? notes.length : notes.filter((note) => note.kind === each).length}
          </Button>
        ))}
      </Box>
      <Box component="ol" aria-label="Notes" sx={{ m: 0, p: 0, listStyle: 'none' }}>
        {shown.map((note) => (
          <Line key={note.id} note={note} />
        ))}
      </Box>
      {notes.length === 0 && (
        <Box sx={{ color: 'text.secondary' }}>
          {withKey('Write down what you hear, where you hear it', 'note')}. {KEYS.previousNote.label} and{' '}
          {KEYS.nextNote.label} go from note to note. Notes keep their place when a corrected mix arrives.
        </Box>
      )}
    </>
  );
}
