'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { clock } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { useEditor, useMeasurements, useMixLength } from '../context';

/** Overs of the whole master, to go to. */
export function Overs() {
  const editor = useEditor();
  const { sampleRate } = useMixLength();
  const overs = useMeasurements((state) => state.measurement?.master.overs);
  if (!overs) return <Box sx={{ color: 'text.secondary' }}>The track is being measured.</Box>;
  if (overs.length === 0) return <Box>No true peak of the master is over full scale.</Box>;
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
      {Array.from(overs, (seconds, i) => (
        <Button
          key={i}
          size="small"
          color="inherit"
          onClick={() => editor.transport.seek(Math.round(seconds * sampleRate))}
          sx={{ fontFamily: FIGURE_FACE, minWidth: 0, py: 0 }}
        >
          {clock(seconds, 1)}
        </Button>
      ))}
    </Box>
  );
}
