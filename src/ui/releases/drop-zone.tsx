'use client';

import UploadIcon from '@mui/icons-material/UploadFileOutlined';
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useEffect } from 'react';
import { useDropzone } from 'react-dropzone';

/** A place to drop mixes on, or to press and choose them. */
export function DropZone({ title, onFiles }: { title: string; onFiles: (files: File[]) => void }) {
  const { getRootProps, getInputProps, inputRef, isDragActive } = useDropzone({
    onDrop: (files: File[]) => files.length > 0 && onFiles(files),
  });
  useEffect(() => {
    // What was chosen before the page's scripts ran told nobody.
    const files = Array.from(inputRef.current?.files ?? []);
    if (files.length > 0) onFiles(files);
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
      <input {...getInputProps()} aria-label="Mixes to upload" />
      <UploadIcon sx={{ color: 'secondary.main', fontSize: 32 }} aria-hidden />
      <Box>
        <Typography sx={{ fontWeight: 650 }}>{isDragActive ? 'Drop to upload' : title}</Typography>
        <Typography color="textSecondary">
          WAV, AIFF, FLAC or another lossless file, up to 2 GB and 60 minutes each. Or click to choose.
        </Typography>
      </Box>
    </Box>
  );
}
