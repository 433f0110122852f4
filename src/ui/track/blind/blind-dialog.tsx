'use client';

import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { LONGEST_PASSAGE_SECONDS, MOST_TRIALS, type BlindTest } from '../../../contracts/blind-test';
import { LETTERS, type BlindKind } from '../../../core/blind/result';
import { clock, dateAndTime } from '../../kit/format';
import { TabsRow } from '../../kit/tabs-row';
import { useAudition, useBlind, useCandidates, useEditor, useMixLength, useTrack, useTransport } from '../context';
import { BlindResult } from './blind-result';
import { comparedWords, passageWords, trialsWords } from './blind-words';

const KIND_TITLES: [BlindKind, string][] = [
  ['tell', 'Tell two apart'],
  ['grade', 'Grade several'],
];
const KIND_WORDS: Record<BlindKind, string> = {
  tell: 'A and B are named, and X is one of them. Say which. Your right answers show whether you hear a difference at all.',
  grade:
    'You grade each letter from 0 to 100 against a reference. One of the letters is the reference itself: if you miss it too often, your grades don’t count.',
};
/** Common practice, no source. */
const USUAL_TRIALS: Record<BlindKind, number> = { tell: 10, grade: 4 };
const LEAST_SOUNDS = 2;

/** The passage that is compared: the loop, else the loudest passage. */
function usePassage() {
  const loop = useTransport((state) => state.loop);
  const loudest = useTrack((state) => state.details.mix?.report?.loudest);
  const { sampleRate } = useMixLength();
  const passage = loop ?? loudest ?? null;
  const words = passage && `${clock(passage.start / sampleRate, 1)}–${clock(passage.end / sampleRate, 1)}`;
  const tooLong = passage !== null && passage.end - passage.start > LONGEST_PASSAGE_SECONDS * sampleRate;
  return { passage, words: `${words} (${loop ? 'the loop' : 'the loudest passage'})`, tooLong };
}

/** Chooses what is compared, and how often, before anything is heard. */
function NewTest() {
  const editor = useEditor();
  const entries = useCandidates((state) => state.entries);
  const heard = useAudition((state) => state.heard);
  const other = useAudition((state) => state.other);
  const busy = useBlind((state) => state.busy);
  const [kind, setKind] = useState<BlindKind>('tell');
  const [trials, setTrials] = useState(USUAL_TRIALS.tell);
  const [chosen, setChosen] = useState([other, heard]);
  const { passage, words, tooLong } = usePassage();
  const listed = entries.filter(({ id }) => chosen.includes(id));
  const [referenceId, setReference] = useState<string | null>(null);
  const reference = listed.find(({ id }) => id === referenceId) ?? listed.at(0);
  const most = kind === 'tell' ? LEAST_SOUNDS : LETTERS.length;
  const fits = listed.length >= LEAST_SOUNDS && listed.length <= most && trials >= 1 && trials <= MOST_TRIALS;
  const order = kind === 'grade' && reference ? [reference, ...listed.filter(({ id }) => id !== reference.id)] : listed;
  const begin = () => passage && void editor.beginBlindTest({ kind, trials, ids: order.map(({ id }) => id), passage });
  return (
    <Box component="section" aria-label="New blind test">
      <TabsRow
        label="Kind of test"
        value={kind}
        titles={KIND_TITLES}
        onChange={(next) => {
          setKind(next);
          setTrials(USUAL_TRIALS[next]);
        }}
      />
      <Box sx={{ mb: 1.5 }}>{KIND_WORDS[kind]}</Box>
      <Box sx={{ display: 'flex', gap: 4 }}>
        <Box role="group" aria-label="What is compared" sx={{ flex: 1, display: 'flex', flexDirection: 'column' }}>
          {entries.map(({ id, full, share }) => (
            <FormControlLabel
              key={id}
              label={share === null ? full : `${full} (not ready)`}
              control={
                <Checkbox
                  size="small"
                  checked={chosen.includes(id)}
                  disabled={share !== null}
                  onChange={(_, on) => setChosen(on ? [...chosen, id] : chosen.filter((each) => each !== id))}
                  sx={{ py: 0.25 }}
                />
              }
            />
          ))}
          {listed.length !== 2 && kind === 'tell' && <Box sx={{ mt: 0.5 }}>Choose two.</Box>}
          {kind === 'grade' && (listed.length < LEAST_SOUNDS || listed.length > most) && (
            <Box sx={{ mt: 0.5 }}>Choose two to six.</Box>
          )}
        </Box>
        <Box sx={{ width: 260, display: 'flex', flexDirection: 'column', gap: 1.5 }}>
          <TextField
            label="Trials"
            type="number"
            size="small"
            value={trials}
            onChange={({ target }) => setTrials(Number(target.value))}
            slotProps={{ htmlInput: { min: 1, max: MOST_TRIALS } }}
            helperText={kind === 'tell' ? trialsWords(trials) : 'More trials make the intervals narrower.'}
          />
          {kind === 'grade' && reference && (
            <TextField
              select
              label="Reference"
              size="small"
              value={reference.id}
              onChange={({ target }) => setReference(target.value)}
            >
              {listed.map(({ id, full }) => (
                <MenuItem key={id} value={id}>
                  {full}
                </MenuItem>
              ))}
            </TextField>
          )}
          <Box sx={{ fontSize: 13 }}>Passage: {words}.</Box>
          {tooLong && (
            <Box sx={{ fontSize: 13 }}>
              That is more than {LONGEST_PASSAGE_SECONDS} s, too long to remember. Loop a shorter passage.
            </Box>
          )}
        </Box>
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mt: 1.5 }}>
        <Button variant="contained" disabled={!fits || !passage || tooLong || busy !== null} onClick={begin}>
          Begin
        </Button>
        <Box role="status">{busy ?? 'Loudness is matched first. You see the result after the last trial.'}</Box>
      </Box>
    </Box>
  );
}

function KeptTest({ test }: { test: BlindTest }) {
  const { blind } = useEditor();
  const { id, status, answered, trials, createdAt } = test;
  const what = comparedWords(test);
  return (
    <Box
      component="li"
      sx={{ display: 'flex', gap: 1, alignItems: 'flex-start', py: 1, borderTop: 1, borderColor: 'divider' }}
    >
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Box sx={{ color: 'text.secondary', fontSize: 12.5, overflowWrap: 'anywhere' }}>
          {dateAndTime(createdAt)}: {what}, {passageWords(test)}
        </Box>
        {status === 'finished' ? <BlindResult test={test} /> : `${answered} of ${trials} trials are answered.`}
      </Box>
      {status === 'running' && (
        <Button size="small" variant="outlined" onClick={() => void blind.goOn(test)}>
          Go on
        </Button>
      )}
      <Tooltip title="Delete this test">
        <IconButton size="small" aria-label={`Delete the test of ${what}`} onClick={() => void blind.remove(id)}>
          <DeleteIcon fontSize="small" />
        </IconButton>
      </Tooltip>
    </Box>
  );
}

/** Blind tests of the track: a new one, and those that were taken. */
export function BlindDialog() {
  const { blind } = useEditor();
  const tests = useBlind((state) => state.tests);
  const problem = useBlind((state) => state.problem);
  return (
    <Dialog open onClose={() => blind.show(false)} fullWidth maxWidth="sm">
      <DialogTitle>Blind test</DialogTitle>
      <DialogContent>
        {problem && (
          <Alert severity="error" sx={{ mb: 2 }}>
            {problem}
          </Alert>
        )}
        <NewTest />
        {tests && tests.length > 0 && (
          <Box component="section" aria-label="Tests of this track" sx={{ mt: 3 }}>
            <Typography variant="h3">Tests of this track</Typography>
            <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
              {tests.map((test) => (
                <KeptTest key={test.id} test={test} />
              ))}
            </Box>
          </Box>
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={() => blind.show(false)}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
