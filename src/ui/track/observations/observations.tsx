'use client';

import MuteIcon from '@mui/icons-material/VisibilityOffOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import { OBSERVATIONS, type Observation } from '../../../core/draft/observations/observation';
import { clock } from '../../../core/measure/figure';
import { useEditor, useMixLength } from '../context';
import { mute, unmute, useMuted } from './muted';
import { useObservations } from './use-observations';

function Item({ observation: { kind, stages, sentence, seconds, remedy } }: { observation: Observation }) {
  const editor = useEditor();
  const { sampleRate } = useMixLength();
  const title = OBSERVATIONS[kind];
  return (
    <Box
      component="li"
      aria-label={title}
      sx={{ py: 0.75, borderTop: 1, borderColor: 'divider', fontSize: 12.5, lineHeight: 1.4 }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', fontWeight: 650 }}>
        {title}
        <Tooltip title="Don’t show this kind of observation">
          <IconButton size="small" aria-label={`Mute “${title}”`} onClick={() => mute(kind)} sx={{ p: 0.25 }}>
            <MuteIcon sx={{ fontSize: 15 }} />
          </IconButton>
        </Tooltip>
      </Box>
      <Box sx={{ color: 'text.secondary' }}>{sentence}</Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.75, mt: 0.5 }}>
        {seconds !== null && (
          <Button
            size="small"
            color="inherit"
            variant="outlined"
            onClick={() => editor.transport.seek(Math.round(seconds * sampleRate))}
          >
            Go to {clock(seconds)}
          </Button>
        )}
        {stages.length > 0 && !remedy && (
          <Button size="small" color="inherit" variant="outlined" onClick={() => editor.openStage(stages[0])}>
            Open the stage
          </Button>
        )}
        {remedy && (
          <Button
            size="small"
            color="inherit"
            variant="outlined"
            onClick={() => {
              editor.lane.editLane(remedy.label, remedy.apply);
              if (stages.length > 0) editor.openStage(stages[0]);
            }}
          >
            {remedy.label}
          </Button>
        )}
      </Box>
    </Box>
  );
}

/** What is worth a look in the master: a list that blocks nothing, and can be muted by kind. */
export function Observations() {
  const found = useObservations();
  const muted = useMuted(({ kinds }) => kinds);
  const shown = found?.filter(({ kind }) => !muted.includes(kind));
  return (
    <Box component="section" aria-label="Observations" sx={{ mt: 2 }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', color: 'text.secondary', fontSize: 12, mb: 0.5 }}>
        <Box component="h2" sx={{ m: 0, font: 'inherit' }}>
          Observations
        </Box>
        <span>{shown ? shown.length || 'nothing stands out' : 'checking'}</span>
      </Box>
      <Box component="ul" sx={{ m: 0, p: 0, listStyle: 'none' }}>
        {shown?.map((observation) => (
          <Item key={[observation.kind, ...observation.stages, observation.sentence].join()} {...{ observation }} />
        ))}
      </Box>
      {muted.map((kind) => (
        <Button key={kind} size="small" color="inherit" onClick={() => unmute(kind)} sx={{ color: 'text.secondary' }}>
          Show “{OBSERVATIONS[kind]}” again
        </Button>
      ))}
    </Box>
  );
}
