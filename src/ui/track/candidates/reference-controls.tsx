'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import TextField from '@mui/material/TextField';
import {
  REFERENCE_PLACES,
  referenceLoopSchema,
  type Candidate,
  type ReferencePlace,
} from '../../../contracts/candidate';
import { useEditor, useTrack } from '../context';

const PLACE_TITLES: Record<ReferencePlace, string> = {
  same: 'at the same time',
  share: 'at the same share of the length',
  loudest: 'with both loudest passages together',
};

/** Where a reference stands while one is somewhere in the track, and a loop of its own. */
export function ReferenceControls({ id, what, full }: ReferenceControlsProps) {
  const { candidates } = useEditor();
  const report = useTrack(({ details }) => details.references.find((each) => each.id === what.referenceId)?.report);
  const { loop, place } = what;
  const loudest = report && {
    startSeconds: report.loudest.start / report.sampleRate,
    endSeconds: report.loudest.end / report.sampleRate,
  };
  const change = (part: 'startSeconds' | 'endSeconds', text: string) => {
    const next = referenceLoopSchema.safeParse({ ...loop, [part]: Number(text) });
    if (next.success) candidates.placeReference(id, { loop: next.data });
  };
  const field = (part: 'startSeconds' | 'endSeconds', title: string) =>
    loop && (
      <TextField
        key={loop[part]}
        variant="standard"
        type="number"
        defaultValue={Number(loop[part].toFixed(2))}
        onBlur={({ target }) => change(part, target.value)}
        onKeyDown={(event) => event.key === 'Enter' && change(part, (event.target as HTMLInputElement).value)}
        slotProps={{ htmlInput: { 'aria-label': `${title} of the loop of ${full}, seconds`, min: 0, step: 0.1 } }}
        sx={{ width: 48, '& input': { fontSize: 12.5, py: 0 } }}
      />
    );
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, fontSize: 12.5, flexWrap: 'wrap' }}>
      <Select
        size="small"
        variant="standard"
        disableUnderline
        value={place}
        inputProps={{ 'aria-label': `Place of ${full}` }}
        onChange={({ target }) => candidates.placeReference(id, { place: target.value })}
        sx={{ fontSize: 12.5 }}
      >
        {REFERENCE_PLACES.map((each) => (
          <MenuItem key={each} value={each}>
            {PLACE_TITLES[each]}
          </MenuItem>
        ))}
      </Select>
      <Button
        size="small"
        color="inherit"
        aria-pressed={loop !== null}
        aria-label={`Loop in ${full}`}
        disabled={!loudest || loudest.endSeconds <= loudest.startSeconds}
        onClick={() => candidates.placeReference(id, { loop: loop ? null : loudest })}
        sx={{ minWidth: 0, py: 0, ...(loop && { bgcolor: 'text.primary', color: 'background.default' }) }}
      >
        Loop
      </Button>
      {loop && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, whiteSpace: 'nowrap' }}>
          {field('startSeconds', 'Start')}–{field('endSeconds', 'End')} s
        </Box>
      )}
    </Box>
  );
}

interface ReferenceControlsProps {
  id: string;
  what: Extract<Candidate, { kind: 'reference' }>;
  full: string;
}
