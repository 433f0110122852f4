'use client';

import ListItemText from '@mui/material/ListItemText';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { useRouter } from 'next/navigation';
import { useEditor, useTrack } from './context';

const NEXT = 'next';

/** Which mix the lane works on; the versions stay as they are. */
export function MixChooser({ onChosen }: { onChosen: () => void }) {
  const editor = useEditor();
  const router = useRouter();
  const mix = useTrack((state) => state.details.mix);
  const mixes = useTrack((state) => state.details.mixes);
  const release = useTrack((state) => state.details.release.id);
  if (!mix) return null;
  const choose = async (value: string) => {
    if (value === NEXT) router.push(`/releases/${release}`);
    else if (value !== mix.id && (await editor.chooseMix(value))) onChosen();
  };
  return (
    <Select
      size="small"
      value={mix.id}
      inputProps={{ 'aria-label': 'Mix' }}
      renderValue={() => `Mix ${mix.number}`}
      onChange={({ target }) => void choose(target.value)}
      sx={{ height: 28, fontSize: 13, bgcolor: 'background.paper' }}
    >
      {mixes.map(({ id, number, fileName, status }) => (
        <MenuItem key={id} value={id} disabled={status !== 'ready'}>
          <ListItemText
            primary={`Mix ${number}`}
            secondary={status === 'ready' ? fileName : `${fileName}, not ready`}
          />
        </MenuItem>
      ))}
      <MenuItem value={NEXT}>Upload a corrected mix…</MenuItem>
    </Select>
  );
}
