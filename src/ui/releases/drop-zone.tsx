'use client';

import UploadIcon from '@mui/icons-material/UploadFileOutlined';
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useEffect, useRef } from 'react';
import { useDropzone } from 'react-dropzone';

/** A place to drop mixes on, or to press and choose them. */
export function DropZone({
  title,
  hint = 'WAV, AIFF, FLAC or another lossless file, up to 2 GB and 60 minutes each.',
  label = 'Mixes to upload',
  onFiles,
}: {
  title: string;
  label?: string;
  /** Which files are taken. */
  hint?: string;
  onFiles: (files: File[]) => void;
}) {
  const taken = useRef(new WeakSet<File>());
  const take = (files: File[]) => {
    const fresh = files.filter((file) => !taken.current.has(file));
    for (const file of fresh) taken.current.add(file);
    if (fresh.length > 0) onFiles(fresh);
  };
  const { getRootProps, getInputProps, inputRef, isDragActive } = useDropzone({ onDrop: take });
  useEffect(() => {
    // What was chosen before the page's scripts ran told nobody. What was chosen while they started is also replayed
    // as an event, so each file is taken once.
    take(Array.from(inputRef.current?.files ?? []));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when the page begins to listen
  }, []);
  return (
    <Box
      {...getRootProps()}
      aria-label={title}
      sx={{
        border: '1.5px dashed',
        borderColor: isDragActive ? 'primary.main' : 'divider',
        bgcolor: isDragActive ? 'background.paper' : 'transparent',
        borderRadius: 2,
        px: 3,
        py: 2.5,
        display: 'flex',
        alignItems: 'center',
        gap: 2,
        cursor: 'pointer',
      }}
    >
      <input {...getInputProps()} aria-label={label} />
      <UploadIcon sx={{ color: 'secondary.main', fontSize: 32 }} aria-hidden />
      <Box>
        <Typography sx={{ fontWeight: 650 }}>{isDragActive ? 'Drop to upload' : title}</Typography>
        <Typography color="textSecondary">{hint} Or click to choose.</Typography>
      </Box>
    </Box>
  );
}
