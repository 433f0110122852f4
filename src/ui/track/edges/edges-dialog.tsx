'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import {
  edgesSchema,
  FADE_SHAPES,
  framesWithin,
  spanOf,
  WHOLE_MIX,
  type Edges,
  type FadeShape,
} from '../../../core/sequence/edges';
import { edgeWords, FADE_SHAPE_TEXTS } from '../../../core/sequence/edge-words';
import { proposeEdges } from '../../../core/sequence/propose-edges';
import { ChoiceField } from '../../kit/choice-field';
import { clock, figure } from '../../kit/format';
import { SwitchRow } from '../../kit/switch-row';
import { TimeField } from '../../kit/time-field';
import { useEditor, useLane, useTrack } from '../context';
import { withKey } from '../key-table';
import { EdgePicture } from './edge-picture';

/** Seconds before the end from which it is played. */
const END_SECONDS = 6;
const SHAPES = FADE_SHAPES.map((value) => ({ value, title: FADE_SHAPE_TEXTS[value].title }));
/** Both edges, as they are named here and in the history. */
const SIDES = {
  start: {
    title: 'Start',
    fade: 'fadeIn',
    fadeTitle: 'Fade-in',
    silence: 'silenceBeforeSeconds',
    silenceTitle: 'Silence before',
  },
  end: {
    title: 'End',
    fade: 'fadeOut',
    fadeTitle: 'Fade-out',
    silence: 'silenceAfterSeconds',
    silenceTitle: 'Silence after',
  },
} as const;

/** Opens the edges; stands over the end of the programme. */
export function EdgesButton({ onOpen }: { onOpen: () => void }) {
  const edges = useLane((state) => state.version.lane.edges);
  return (
    <Tooltip title={withKey(edges ? `Edges: ${edgeWords(edges)}` : 'Edges: where the track starts and ends', 'edges')}>
      <Button
        size="small"
        color="inherit"
        onClick={onOpen}
        sx={{
          position: 'absolute',
          top: 1,
          right: 2,
          minWidth: 0,
          height: 26,
          py: 0,
          px: 1,
          bgcolor: 'background.paper',
        }}
      >
        Edges
      </Button>
    </Tooltip>
  );
}

/** Where the track starts and ends in its mix, how it fades, and the silence around it. */
export function EdgesDialog({ onClose }: { onClose: () => void }) {
  const editor = useEditor();
  const audio = useTrack((state) => state.audio);
  const report = useTrack((state) => state.details.mix?.report);
  const edges = useLane((state) => state.version.lane.edges) ?? WHOLE_MIX;
  const [snap, setSnap] = useState(true);
  const [refusal, setRefusal] = useState<string | null>(null);
  const set = (label: string, next: Edges) => {
    const read = edgesSchema.safeParse(next);
    setRefusal(read.success ? null : `${label}: ${read.error.issues[0].message}`);
    if (read.success) editor.lane.setEdges(label, read.data);
  };
  const proposed = report ? proposeEdges(report) : null;

  const content = () => {
    if (!audio) return <Alert severity="info">The mix is still loading.</Alert>;
    const { sampleRate } = audio;
    const frames = audio.left.length;
    const span = spanOf(edges, sampleRate, frames);
    const withStart = (frame: number): Edges => ({ ...edges, startSeconds: Math.max(0, frame) / sampleRate });
    const withEnd = (frame: number): Edges => ({ ...edges, endSeconds: frame >= frames ? null : frame / sampleRate });
    const side = (name: keyof typeof SIDES) => {
      const { title, fade, fadeTitle, silence, silenceTitle } = SIDES[name];
      const withEdge = name === 'start' ? withStart : withEnd;
      const frame = span[name];
      const { seconds, shape } = edges[fade];
      const move = (to: number) => set(`${title} at ${clock(Math.max(0, to) / sampleRate, 3)}`, withEdge(to));
      return (
        <Box component="section" aria-label={title} sx={{ flex: '1 1 340px', minWidth: 0 }}>
          <Typography variant="h3" sx={{ mb: 0.5 }}>
            {title}
          </Typography>
          <EdgePicture {...{ title, audio, edges, edge: frame, snap, withEdge }} onMove={move} />
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, mt: 1.5 }}>
            <TimeField
              label={`${title} at`}
              text={clock(frame / sampleRate, 4)}
              onChange={(to) => move(Math.round(to * sampleRate))}
            />
            <TimeField
              label={silenceTitle}
              text={figure(edges[silence], 3)}
              unit="s"
              onChange={(to) => set(silenceTitle, { ...edges, [silence]: to })}
            />
            <TimeField
              label={fadeTitle}
              text={figure(seconds, 3)}
              unit="s"
              onChange={(to) => set(fadeTitle, { ...edges, [fade]: { seconds: to, shape } })}
            />
            <Tooltip title={FADE_SHAPE_TEXTS[shape].help}>
              <span>
                <ChoiceField<FadeShape>
                  label={`Shape of the ${fadeTitle.toLowerCase()}`}
                  value={shape}
                  options={SHAPES}
                  width={170}
                  onChange={(to) => set(fadeTitle, { ...edges, [fade]: { seconds, shape: to } })}
                />
              </span>
            </Tooltip>
          </Box>
        </Box>
      );
    };
    const play = (from: number) => {
      editor.transport.seek(Math.max(0, from));
      if (!editor.transport.store.getState().playing) editor.transport.togglePlay();
    };
    return (
      <>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 3 }}>
          {side('start')}
          {side('end')}
        </Box>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1, mt: 2 }}>
          <Button variant="outlined" onClick={() => play(span.start)}>
            Play the start
          </Button>
          <Button variant="outlined" onClick={() => play(span.end - END_SECONDS * sampleRate)}>
            Play the end
          </Button>
          <Box sx={{ flex: 1 }} />
          <SwitchRow
            title="Snap to zero crossings"
            help="A cut where the waveform crosses zero clicks least. A fade of a few milliseconds clicks never."
            on={snap}
            onChange={setSnap}
          />
        </Box>
        <Typography sx={{ mt: 1.5 }} role="status">
          The file will be {clock(framesWithin(edges, sampleRate, frames) / sampleRate, 3)} long
          {editor.lane.lane.stages.some(({ on }) => on) ? ', and longer by what rings on after the end.' : '.'}
        </Typography>
        {refusal && (
          <Alert severity="error" sx={{ mt: 1 }}>
            {refusal}
          </Alert>
        )}
      </>
    );
  };

  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md">
      <DialogTitle>Edges</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary" sx={{ mb: 1.5 }}>
          Where the track starts and ends in its mix. What is cut off stays in the mix; a corrected mix keeps the same
          edges.
        </Typography>
        {content()}
      </DialogContent>
      <DialogActions>
        {report && (
          <Box sx={{ flex: 1, fontSize: 13, color: 'text.secondary', pl: 2 }}>
            {proposed
              ? `Intake found ${figure(report.headSeconds, 2)} s of silence at the start and ${figure(report.tailSeconds, 2)} s at the end.`
              : 'Intake found no silence worth cutting.'}
          </Box>
        )}
        {proposed && <Button onClick={() => set('Edges from silence', { ...proposed })}>Cut the silence</Button>}
        <Button color="inherit" disabled={edges === WHOLE_MIX} onClick={() => set('Whole mix', WHOLE_MIX)}>
          Whole mix
        </Button>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
