'use client';

import ImageIcon from '@mui/icons-material/ImageOutlined';
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useRef, useState } from 'react';
import type { ReleaseDetail } from '../../contracts/release';

const EDGE = 44;

/** The cover picture of a release, which goes into its files; press to choose another. */
export function CoverButton({
  release: { id, title, cover },
  onChoose,
  onRemove,
}: {
  release: ReleaseDetail;
  onChoose: (file: File) => void;
  onRemove: () => void;
}) {
  const file = useRef<HTMLInputElement>(null);
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const choose = () => {
    setMenu(null);
    file.current?.click();
  };
  return (
    <>
      <ButtonBase
        aria-label={cover ? `Cover of ${title}` : `Add a cover to ${title}`}
        title={cover ? 'Cover picture: goes into the tags of every file' : 'Add a cover picture: JPEG or PNG'}
        onClick={({ currentTarget }) => (cover ? setMenu(currentTarget) : choose())}
        sx={{
          ...{ width: EDGE, height: EDGE, flexShrink: 0, border: 1, borderColor: 'divider', borderRadius: 1 },
          ...{ overflow: 'hidden', color: 'text.secondary' },
        }}
      >
        {cover ? (
          <Box
            component="img"
            src={`/api/releases/${id}/cover?of=${cover.hash.slice(0, 12)}`}
            alt=""
            sx={{ width: EDGE, height: EDGE, objectFit: 'cover' }}
          />
        ) : (
          <ImageIcon fontSize="small" />
        )}
      </ButtonBase>
      <input
        ref={file}
        hidden
        type="file"
        accept="image/jpeg,image/png"
        aria-label={`Cover of ${title}, file`}
        onChange={({ target }) => {
          if (target.files?.[0]) onChoose(target.files[0]);
          target.value = '';
        }}
      />
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
        <MenuItem onClick={choose}>Choose another…</MenuItem>
        <MenuItem
          onClick={() => {
            setMenu(null);
            onRemove();
          }}
        >
          Take it away
        </MenuItem>
      </Menu>
    </>
  );
}
