'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { BlindTest } from '../../../contracts/blind-test';
import { useTrack } from '../context';
import { saveFile } from '../save-file';
import { blindTestAsText } from './blind-words';

/** What a finished test shows, in words, and the way to keep it. */
export function BlindResult({ test }: { test: BlindTest }) {
  const title = useTrack((state) => state.details.track.title);
  const [first, ...rest] = test.result?.sentences ?? [];
  return (
    <Box>
      <Box sx={{ fontWeight: 650 }}>{first}</Box>
      {rest.map((sentence) => (
        <Box key={sentence}>{sentence}</Box>
      ))}
      <Button
        size="small"
        onClick={() => saveFile(`${title}, blind test.txt`, blindTestAsText(title, test), 'text/plain')}
        sx={{ mt: 0.5, ml: -0.5 }}
      >
        Save as text
      </Button>
    </Box>
  );
}
