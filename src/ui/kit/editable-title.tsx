'use client';

import EditIcon from '@mui/icons-material/EditOutlined';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import TextField from '@mui/material/TextField';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { useEffect, useRef, useState } from 'react';
import type { z } from 'zod';

/** A title that is renamed where it stands: Enter saves, Escape leaves it. */
export function EditableTitle({
  before,
  title,
  variant,
  schema,
  onRename,
}: {
  /** What stands before it and is not part of it, such as a number. */
  before?: string;
  title: string;
  variant: 'h1' | 'h2' | 'h3';
  schema: z.ZodType<string, string>;
  onRename: (title: string) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const pen = useRef<HTMLButtonElement>(null);
  const edited = useRef(false);
  useEffect(() => {
    // The focus goes back to where the editing began.
    if (text === null && edited.current) pen.current?.focus();
    edited.current = text !== null;
  }, [text]);
  if (text === null) {
    return (
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, minWidth: 0 }}>
        <Typography variant={variant} noWrap title={title}>
          {before}
          {title}
        </Typography>
        <Tooltip title="Rename">
          <IconButton ref={pen} size="small" aria-label={`Rename ${title}`} onClick={() => setText(title)}>
            <EditIcon sx={{ fontSize: 16 }} />
          </IconButton>
        </Tooltip>
      </Box>
    );
  }
  const checked = schema.safeParse(text);
  const finish = () => {
    if (!checked.success) return;
    if (checked.data !== title) onRename(checked.data);
    setText(null);
  };
  return (
    <TextField
      autoFocus
      size="small"
      value={text}
      error={!checked.success}
      helperText={checked.error?.issues[0]?.message}
      slotProps={{ htmlInput: { 'aria-label': `Title of ${title}` } }}
      onFocus={(event) => event.target.select()}
      onChange={({ target }) => setText(target.value)}
      onBlur={() => (checked.success ? finish() : setText(null))}
      onKeyDown={(event) => {
        if (event.key === 'Escape') setText(null);
        if (event.key !== 'Enter') return;
        // The same press would open the title again, since the focus goes to the pen.
        event.preventDefault();
        finish();
      }}
      sx={{ minWidth: 320 }}
    />
  );
}
