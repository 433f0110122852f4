'use client';

import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import IconButton from '@mui/material/IconButton';
import List from '@mui/material/List';
import ListItem from '@mui/material/ListItem';
import ListItemButton from '@mui/material/ListItemButton';
import ListItemText from '@mui/material/ListItemText';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { sentenceOf } from '../../../core/sentence-of';
import { keptHouseLanesSchema } from '../../../contracts/house-lane';
import {
  foundAmong,
  MATERIALS,
  parseHouseLane,
  PURPOSES,
  type HouseLane,
  type Material,
  type Purpose,
} from '../../../core/house/house-lane';
import { HOUSE_LANES } from '../../../core/house/ready-made';
import { stageTitle } from '../../../core/lane/schema';
import { COMPARED_LUFS } from '../../../engine/measure/render-passage';
import { api, send } from '../../api';
import { figure } from '../../kit/format';
import { MAX_LABEL } from '../../../contracts/version';
import { useEditor, useLane } from '../context';
import { useSolver } from '../first-draft/use-draft';
import { saveFile } from '../save-file';
import { usePassages } from './use-passages';

export const HOUSE_LANES_KEY = ['house-lanes'];

/** One of the list: one’s own has an id. */
interface Entry extends HouseLane {
  id: string | null;
}

/** Lanes to begin from: looked for, listened to at equal loudness, and taken for this track or for all of the release. */
export function HouseLanesDialog({ onClose }: { onClose: () => void }) {
  const editor = useEditor();
  const client = useQueryClient();
  const lane = useLane((state) => state.version.lane);
  const { data, error } = useQuery({
    queryKey: HOUSE_LANES_KEY,
    queryFn: () => api(keptHouseLanesSchema, '/api/house-lanes'),
  });
  const { runner, problem: unready } = useSolver();
  const { heard, hear, problem: unheard } = usePassages(runner);
  const [words, setWords] = useState('');
  const [material, setMaterial] = useState<Material | ''>('');
  const [purpose, setPurpose] = useState<Purpose | ''>('');
  const [chosen, setChosen] = useState<Entry | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const own = (data ?? []).map(({ id, houseLane }): Entry => ({ ...houseLane, id }));
  const all = [...own, ...HOUSE_LANES.map((each): Entry => ({ ...each, id: null }))];
  const shown = foundAmong(all, words).filter(
    (each) => (material === '' || each.material === material) && (purpose === '' || each.purpose === purpose),
  );
  const again = () => client.invalidateQueries({ queryKey: HOUSE_LANES_KEY });
  const attempt = async (work: () => Promise<unknown>) => {
    setBusy(true);
    setProblem(null);
    try {
      await work();
    } catch (failure) {
      setProblem(sentenceOf(failure));
    }
    setBusy(false);
  };
  const open = (file: File | undefined) =>
    file &&
    attempt(async () => {
      let read: unknown;
      try {
        read = JSON.parse(await file.text());
      } catch {
        throw new Error(`${file.name} is not JSON. Choose a house lane file saved here.`);
      }
      await send('/api/house-lanes', { method: 'POST', body: parseHouseLane(read) });
      await again();
    });
  const take = () => {
    if (!chosen) return;
    editor.lane.editLane(`Begin from ${chosen.name}`.slice(0, MAX_LABEL), () => chosen.lane);
    onClose();
  };
  const takeForAll = () =>
    chosen &&
    attempt(async () => {
      await editor.beginAllFrom(chosen);
      onClose();
    });
  const trouble = problem ?? unready ?? unheard ?? (error && sentenceOf(error));
  const { id: _, ...file } = chosen ?? { id: null };
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>House lanes</DialogTitle>
      <DialogContent sx={{ pb: 0 }}>
        <Box sx={{ display: 'flex', gap: 1.5, pt: 1, mb: 1 }}>
          <TextField
            autoFocus
            size="small"
            label="Search"
            value={words}
            onChange={({ target }) => setWords(target.value)}
            sx={{ flex: 1 }}
          />
          <TextField
            select
            size="small"
            label="Material"
            value={material}
            onChange={({ target }) => setMaterial(target.value as Material | '')}
            slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
            sx={{ width: 180 }}
          >
            <MenuItem value="">All</MenuItem>
            {Object.entries(MATERIALS).map(([key, title]) => (
              <MenuItem key={key} value={key}>
                {title}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            size="small"
            label="Purpose"
            value={purpose}
            onChange={({ target }) => setPurpose(target.value as Purpose | '')}
            slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
            sx={{ width: 180 }}
          >
            <MenuItem value="">All</MenuItem>
            {Object.entries(PURPOSES).map(([key, title]) => (
              <MenuItem key={key} value={key}>
                {title}
              </MenuItem>
            ))}
          </TextField>
        </Box>
        {trouble && <Alert severity="error">{trouble}</Alert>}
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2, height: 380 }}>
          <List dense aria-label="House lanes" sx={{ overflowY: 'auto', borderRight: 1, borderColor: 'divider' }}>
            {shown.length === 0 && <Box sx={{ p: 1, color: 'text.secondary' }}>None has all of these words.</Box>}
            {shown.map((entry) => (
              <ListItem
                key={entry.id ?? entry.name}
                disablePadding
                secondaryAction={
                  entry.id && (
                    <IconButton
                      size="small"
                      aria-label={`Delete ${entry.name}`}
                      onClick={() =>
                        void attempt(async () => {
                          await send(`/api/house-lanes/${entry.id}`, { method: 'DELETE' });
                          if (chosen?.id === entry.id) setChosen(null);
                          await again();
                        })
                      }
                    >
                      <DeleteIcon fontSize="small" />
                    </IconButton>
                  )
                }
              >
                <ListItemButton
                  selected={chosen?.name === entry.name && chosen.id === entry.id}
                  onClick={() => setChosen(entry)}
                >
                  <ListItemText
                    primary={entry.name}
                    secondary={`${entry.id ? 'yours, ' : ''}${MATERIALS[entry.material]}, ${PURPOSES[entry.purpose].toLowerCase()}`}
                    // On the tint of what is chosen, paler text would be too faint.
                    slotProps={{ secondary: { sx: { '.Mui-selected &': { color: 'text.primary' } } } }}
                  />
                </ListItemButton>
              </ListItem>
            ))}
          </List>
          <Box sx={{ overflowY: 'auto' }}>
            {!chosen && (
              <Box sx={{ color: 'text.secondary' }}>
                Choose one to see what it does, and listen to the loudest passage through it. Taking it replaces the
                stages of this version in one step, which undo takes back.
              </Box>
            )}
            {chosen && (
              <Box sx={{ display: 'grid', gap: 1.5 }}>
                <Box sx={{ fontWeight: 650 }}>{chosen.name}</Box>
                <Box>{chosen.sentence}</Box>
                <Box sx={{ color: 'text.secondary' }}>{chosen.lane.stages.map(stageTitle).join(' → ')}</Box>
                {chosen.lane.house && chosen.lane.house.handles.length > 0 && (
                  <Box>Handles: {chosen.lane.house.handles.map(({ name }) => name.toLowerCase()).join(', ')}</Box>
                )}
                <ToggleButtonGroup
                  exclusive
                  size="small"
                  aria-label="Listen to the loudest passage"
                  value={heard}
                  onChange={(_, key: string | null) => {
                    if (key) void hear(key, key === 'mine' ? lane : chosen.lane);
                  }}
                >
                  <ToggleButton value="mine" sx={{ textTransform: 'none' }}>
                    Hear this lane
                  </ToggleButton>
                  <ToggleButton value={chosen.id ?? chosen.name} sx={{ textTransform: 'none' }}>
                    Hear the house lane
                  </ToggleButton>
                </ToggleButtonGroup>
                <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>
                  Both are the loudest passage at {figure(COMPARED_LUFS, 0)} LUFS: louder does not win.
                </Box>
              </Box>
            )}
          </Box>
        </Box>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={() => input.current?.click()}>
          Open a file…
        </Button>
        <Button
          color="inherit"
          disabled={!chosen}
          onClick={() =>
            chosen && saveFile(`${chosen.name}.house-lane.json`, JSON.stringify(file, null, 2), 'application/json')
          }
        >
          Save as a file
        </Button>
        <Box sx={{ flex: 1 }} />
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button color="inherit" variant="outlined" disabled={!chosen || busy} onClick={() => void takeForAll()}>
          For all tracks
        </Button>
        <Button variant="contained" disabled={!chosen || busy} onClick={take}>
          Begin from it
        </Button>
      </DialogActions>
      <input
        ref={input}
        type="file"
        accept=".json,application/json"
        aria-label="House lane file to open"
        hidden
        onChange={({ target }) => {
          void open(target.files?.[0]);
          target.value = '';
        }}
      />
    </Dialog>
  );
}
