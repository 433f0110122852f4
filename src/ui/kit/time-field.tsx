'use client';

import InputAdornment from '@mui/material/InputAdornment';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { typedTime } from './typed-time';

/** A field for a time in seconds, or in minutes and seconds. Enter, or leaving it, takes what was typed; Escape gives it up. */
export function TimeField({
  label,
  text,
  unit,
  onChange,
  width = 130,
  told,
}: {
  label: string;
  /** The value as it is shown. */
  text: string;
  unit?: string;
  onChange: (seconds: number) => void;
  width?: number;
  /** What became of what was typed last, as a sentence. */
  told?: string | null;
}) {
  const [typing, setTyping] = useState<string | null>(null);
  const seconds = typing === null ? null : typedTime(typing);
  const wrong = typing !== null && seconds === null;
  const finish = () => {
    // What can’t be read stays, with what can be typed, until it is mended or given up.
    if (wrong) return;
    setTyping(null);
    if (seconds !== null && typing !== text) onChange(seconds);
  };
  return (
    <TextField
      size="small"
      label={label}
      value={typing ?? text}
      error={wrong}
      helperText={wrong ? 'Type a time such as 1:23.456 or 2.5' : typing === null ? told : undefined}
      onChange={({ target }) => setTyping(target.value)}
      onBlur={finish}
      onKeyDown={(event) => {
        if (event.key === 'Enter') finish();
        if (event.key === 'Escape' && typing !== null) {
          // The dialog stays.
          event.stopPropagation();
          setTyping(null);
        }
      }}
      sx={{ width }}
      slotProps={{ input: unit ? { endAdornment: <InputAdornment position="end">{unit}</InputAdornment> } : {} }}
    />
  );
}
