'use client';

import MoreIcon from '@mui/icons-material/MoreHoriz';
import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Tooltip from '@mui/material/Tooltip';
import { useState } from 'react';

export interface Action {
  title: string;
  onChoose: () => void;
  disabled?: boolean;
}

/** What can be done with one thing, behind three dots. */
export function ActionsMenu({ of, actions }: { of: string; actions: Action[] }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Tooltip title="More">
        <IconButton
          size="small"
          aria-label={`More for ${of}`}
          aria-haspopup="menu"
          aria-expanded={anchor !== null}
          onClick={(event) => setAnchor(event.currentTarget)}
        >
          <MoreIcon fontSize="small" />
        </IconButton>
      </Tooltip>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {actions.map(({ title, onChoose, disabled }) => (
          <MenuItem
            key={title}
            disabled={disabled}
            onClick={() => {
              setAnchor(null);
              onChoose();
            }}
          >
            {title}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
