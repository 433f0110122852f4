'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import type { VersionState } from '../../contracts/version';
import { sameData } from '../../core/lane/same-data';
import { stageTitle, type Lane, type Stage } from '../../core/lane/schema';
import { stageWords } from '../../core/lane/stage-words';
import { count } from '../kit/format';
import { useEditor, useLane } from './context';

/** The stages of a lane; where they differ from those of another, in full. */
function LaneWords({ title, last, lane, other }: { title: string; last: string; lane: Lane; other?: Lane }) {
  const same = (stage: Stage) => other?.stages.some((each) => sameData(each, stage)) ?? true;
  const differing = lane.stages.filter((stage) => !same(stage));
  return (
    <Box component="section" aria-label={title}>
      <Typography variant="h3">{title}</Typography>
      <Typography color="textSecondary">Last step: {last}</Typography>
      <Typography>
        {lane.stages.map((stage) => `${stageTitle(stage)}${stage.on ? '' : ' (off)'}`).join(' → ') || 'No stages'}
      </Typography>
      {differing.map((stage) => (
        <Box key={stage.id} sx={{ mt: 0.5, fontSize: 12.5 }}>
          <b>{stageTitle(stage)}</b>
          {stageWords(stage).map((words) => (
            <div key={words}>{words}</div>
          ))}
        </Box>
      ))}
    </Box>
  );
}

/** The version was changed in another window while there was something to save here: one of the two is chosen, or both kept. */
export function ConflictDialog() {
  const editor = useEditor();
  const { lane, name } = useLane((state) => state.version);
  const unsaved = useLane((state) => state.unsaved);
  const [theirs, setTheirs] = useState<VersionState | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const attempt = (work: () => Promise<unknown>) =>
    void work()
      .then(() => setProblem(null))
      .catch((error: unknown) => setProblem(sentenceOf(error)));
  useEffect(() => {
    attempt(async () => setTheirs((await editor.savedVersion()) ?? null));
  }, [editor]);
  return (
    <Dialog open fullWidth maxWidth="sm">
      <DialogTitle>“{name}” was changed in another window</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 2 }}>
        <LaneWords
          title={`Here, ${count(unsaved.length, 'step')} not saved`}
          last={unsaved.at(-1) ?? 'none'}
          lane={lane}
          other={theirs?.lane}
        />
        {theirs ? (
          <LaneWords title="In the other window" last={theirs.undo ?? 'none'} lane={theirs.lane} other={lane} />
        ) : (
          !problem && <LinearProgress aria-label="Loading the other lane" />
        )}
        {problem && <Alert severity="error">{problem}</Alert>}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" disabled={!theirs} onClick={() => theirs && editor.lane.useTheirs(theirs)}>
          Use the other
        </Button>
        <Button color="inherit" disabled={!theirs} onClick={() => theirs && attempt(() => editor.lane.useMine(theirs))}>
          Use this one
        </Button>
        <Button
          variant="contained"
          onClick={() => attempt(() => editor.keepMine(`${name}, other window`.slice(0, 60)))}
        >
          Keep this one as a new version
        </Button>
      </DialogActions>
    </Dialog>
  );
}
