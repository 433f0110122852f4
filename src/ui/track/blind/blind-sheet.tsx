'use client';

import PauseIcon from '@mui/icons-material/Pause';
import PlayIcon from '@mui/icons-material/PlayArrow';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Slider from '@mui/material/Slider';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { BlindTest } from '../../../contracts/blind-test';
import { GRADES } from '../../../core/blind/result';
import { FIGURE_FACE } from '../../theme/theme';
import { useBlind, useEditor, useTrack, useTransport } from '../context';
import { BlindResult } from './blind-result';
import { lettersOf } from './blind-session';
import { comparedWords, passageWords } from './blind-words';

const MIDDLE_GRADE = 50;
/** The words of the continuous quality scale (ITU-R BS.1534), in the middle of their fifths. */
const QUALITY = ['bad', 'poor', 'fair', 'good', 'excellent'].map((label, i) => ({ value: 10 + 20 * i, label }));

function LetterChip({ letter, name }: { letter: string; name?: string }) {
  const { blind } = useEditor();
  const heard = useBlind((state) => state.letter === letter);
  const already = useBlind((state) => state.heardLetters.includes(letter));
  return (
    <Box sx={{ width: name ? 132 : 64, textAlign: 'center' }}>
      <ButtonBase
        aria-label={name ? `${letter}: ${name}` : letter}
        aria-pressed={heard}
        onClick={() => blind.listen(letter)}
        sx={{
          ...{ width: 64, height: 64, borderRadius: 1, border: '1.5px solid', fontSize: 28, fontWeight: 600 },
          borderColor: already ? 'text.primary' : 'divider',
          bgcolor: heard ? 'text.primary' : 'background.paper',
          color: heard ? 'background.paper' : 'text.primary',
        }}
      >
        {letter}
      </ButtonBase>
      {name && <Box sx={{ mt: 0.5, fontSize: 13, overflowWrap: 'anywhere' }}>{name}</Box>}
    </Box>
  );
}

/** Which of the two the unnamed one is. */
function Telling({ test, ready }: { test: BlindTest; ready: boolean }) {
  const { blind } = useEditor();
  const busy = useBlind((state) => state.busy !== null);
  const say = (choice: 0 | 1) => void blind.answer({ choice });
  useHotkeys('1', () => say(0));
  useHotkeys('2', () => say(1));
  return (
    <>
      <Box role="group" aria-label="Sounds" sx={{ display: 'flex', justifyContent: 'center', gap: 3 }}>
        <LetterChip letter="A" name={test.names[0]} />
        <LetterChip letter="X" name="one of the two" />
        <LetterChip letter="B" name={test.names[1]} />
      </Box>
      <Box sx={{ display: 'flex', justifyContent: 'center', gap: 2, mt: 4 }}>
        <Button variant="outlined" size="large" disabled={!ready || busy} onClick={() => say(0)}>
          X is A (1)
        </Button>
        <Button variant="outlined" size="large" disabled={!ready || busy} onClick={() => say(1)}>
          X is B (2)
        </Button>
      </Box>
      <Box sx={{ mt: 1.5, textAlign: 'center', minHeight: 24 }}>
        {ready ? 'Not sure? Say what seems more likely.' : 'Play, and listen to X first.'}
      </Box>
    </>
  );
}

/** A grade for each letter; one of them is the reference itself. */
function Grading({ test, ready }: { test: BlindTest; ready: boolean }) {
  const { blind } = useEditor();
  const busy = useBlind((state) => state.busy !== null);
  const { unnamed } = lettersOf(test);
  const [grades, setGrades] = useState(unnamed.map(() => MIDDLE_GRADE));
  return (
    <>
      <Box sx={{ display: 'flex', justifyContent: 'center', mb: 2 }}>
        <LetterChip letter="R" name={`reference: ${test.names[0]}`} />
      </Box>
      <Box role="group" aria-label="Grades">
        {unnamed.map((letter, i) => (
          <Box key={letter} sx={{ display: 'flex', alignItems: 'center', gap: 3, mb: 1 }}>
            <LetterChip letter={letter} />
            <Slider
              value={grades[i]}
              min={GRADES.worst}
              max={GRADES.best}
              marks={QUALITY}
              aria-label={`Grade of ${letter}`}
              onChange={(_, value) => setGrades(grades.map((grade, k) => (k === i ? Number(value) : grade)))}
              sx={{ flex: 1, color: 'text.primary', '& .MuiSlider-mark': { display: 'none' } }}
            />
            <Box sx={{ fontFamily: FIGURE_FACE, fontSize: 20, width: 44, textAlign: 'right' }}>{grades[i]}</Box>
          </Box>
        ))}
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'flex-end', gap: 2, mt: 2 }}>
        <span>
          {ready
            ? 'One of the letters is the reference itself. Give that one 100.'
            : 'Play, and listen to every letter first.'}
        </span>
        <Button variant="outlined" disabled={!ready || busy} onClick={() => void blind.answer({ grades })}>
          {test.answered + 1 === test.trials ? 'Finish' : 'Next trial'}
        </Button>
      </Box>
    </>
  );
}

function Trial({ test }: { test: BlindTest }) {
  const { blind, transport } = useEditor();
  const playing = useTransport((state) => state.playing);
  const letter = useBlind((state) => state.letter);
  // Asked again whenever a letter was heard.
  useBlind((state) => state.heardLetters);
  useEffect(() => {
    if (playing) blind.sounds();
  }, [blind, playing, letter, test.answered]);
  const ready = blind.canAnswer();
  const { named, unnamed } = lettersOf(test);
  const letters = [...named, ...unnamed];
  useHotkeys('space', () => transport.togglePlay(), { preventDefault: true, enableOnFormTags: true });
  useHotkeys(
    letters.map((letter) => letter.toLowerCase()),
    ({ key }) => blind.listen(key.toUpperCase()),
    { enableOnFormTags: true, useKey: true },
  );
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mb: 4 }}>
        <Button
          variant="outlined"
          startIcon={playing ? <PauseIcon /> : <PlayIcon />}
          onClick={() => transport.togglePlay()}
        >
          {playing ? 'Pause' : 'Play'}
        </Button>
        <Box sx={{ color: 'text.secondary' }}>
          Press the letters to switch, Space to pause. They play the same passage at the same loudness.
        </Box>
      </Box>
      {test.kind === 'tell' ? (
        <Telling test={test} ready={ready} />
      ) : (
        <Grading key={test.answered} test={test} ready={ready} />
      )}
    </>
  );
}

/** A blind test while it is taken: letters on plain paper, and nothing else that could tell them apart. */
export function BlindSheet({ test }: { test: BlindTest }) {
  const { blind } = useEditor();
  const busy = useBlind((state) => state.busy);
  const problem = useBlind((state) => state.problem);
  const title = useTrack((state) => state.details.track.title);
  const finished = test.status === 'finished';
  const sheet = useRef<HTMLElement>(null);
  // Not on “Leave”, where a key would end the test.
  useEffect(() => sheet.current?.focus(), []);
  return (
    <Box sx={{ minHeight: '100vh', display: 'flex', justifyContent: 'center', p: 4 }}>
      <Box ref={sheet} component="main" tabIndex={-1} sx={{ width: 620, maxWidth: '100%', outline: 'none' }}>
        <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2 }}>
          <Typography variant="h1" sx={{ flex: 1 }}>
            {finished ? 'Result' : `Trial ${test.answered + 1} of ${test.trials}`}
          </Typography>
          <Button color="inherit" onClick={() => blind.leave()}>
            {finished ? 'Back to the track' : 'Leave'}
          </Button>
        </Box>
        <Box sx={{ color: 'text.secondary', mb: 3 }}>
          {title}: blind test of {comparedWords(test)}, {passageWords(test)}.
          {!finished && ' Programme, ribbon and meters are covered, so that you judge by ear.'}
        </Box>
        {problem && (
          <Alert severity="error" sx={{ mb: 2 }}>
            {problem}
          </Alert>
        )}
        {finished ? <BlindResult test={test} /> : <Trial test={test} />}
        <Box role="status" sx={{ mt: 2, minHeight: 24, textAlign: 'center', color: 'text.secondary' }}>
          {busy}
        </Box>
      </Box>
    </Box>
  );
}
