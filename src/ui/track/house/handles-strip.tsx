'use client';

import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import InputBase from '@mui/material/InputBase';
import Slider from '@mui/material/Slider';
import Tooltip from '@mui/material/Tooltip';
import { useEffect, useState } from 'react';
import { withHandleAdded, withHandleNamed, withHandleRemoved, withoutHouse } from '../../../core/house/edit-handles';
import { withHandleAt, withHouse } from '../../../core/house/handles';
import { handleName, MOST_HANDLES, REST_PERCENT, type Handle, type House } from '../../../core/house/schema';
import { FIGURE_FACE } from '../../theme/theme';
import { useEditor, useLane } from '../context';
import { pointFor, usePointing } from './pointing';

/** An overall control. Double-click: back to where it rests. */
function Overall({
  title,
  help,
  percent,
  most,
  rest,
  onPercent,
}: {
  title: string;
  help: string;
  percent: number;
  most: number;
  rest: number;
  onPercent: (percent: number) => void;
}) {
  const editor = useEditor();
  return (
    <Box sx={{ minWidth: 92, flex: '1 1 92px', maxWidth: 170 }} onDoubleClick={() => onPercent(rest)}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 0.5, fontSize: 12 }}>
        <Tooltip title={help}>
          <Box
            component="span"
            sx={{ fontWeight: 650, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}
          >
            {title}
          </Box>
        </Tooltip>
        <Box component="span" sx={{ fontFamily: FIGURE_FACE }}>
          {percent}
        </Box>
      </Box>
      <Slider
        size="small"
        track={false}
        min={0}
        max={most}
        step={1}
        marks={[{ value: rest }]}
        value={percent}
        aria-label={title}
        getAriaValueText={(value) => `${value} %`}
        onChange={(_, value) => onPercent(value)}
        onChangeCommitted={() => void editor.lane.flush()}
        sx={{ py: 0.75, display: 'block' }}
      />
    </Box>
  );
}

/** A handle while handles are made: its name, what it moves, and the way to point at more. */
function Editing({ handle, index }: { handle: Handle; index: number }) {
  const editor = useEditor();
  const pointing = usePointing((state) => state.handle === index);
  const [name, setName] = useState<string | null>(null);
  const rename = () => {
    const typed = handleName.safeParse(name ?? handle.name);
    setName(null);
    if (typed.success && typed.data !== handle.name)
      editor.lane.editLane(`Name a handle ${typed.data}`, (lane) => withHandleNamed(lane, index, typed.data));
  };
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 0.5,
        border: 1,
        borderColor: pointing ? 'text.primary' : 'divider',
        borderRadius: 1.5,
        pl: 1,
      }}
    >
      <InputBase
        value={name ?? handle.name}
        inputProps={{ 'aria-label': `Name of handle ${index + 1}`, maxLength: 20 }}
        onChange={({ target }) => setName(target.value)}
        onBlur={rename}
        onKeyDown={({ key }) => key === 'Enter' && rename()}
        sx={{ width: 84, fontSize: 12.5, fontWeight: 650 }}
      />
      <Button
        size="small"
        color="inherit"
        aria-pressed={pointing}
        aria-label={`Point at controls for ${handle.name}`}
        onClick={() => pointFor(pointing ? null : index)}
        sx={{ fontSize: 12, fontWeight: pointing ? 700 : 400, whiteSpace: 'nowrap' }}
      >
        {pointing ? 'pointing' : `moves ${handle.moves.length}`}
      </Button>
      <IconButton
        size="small"
        aria-label={`Delete handle ${handle.name}`}
        onClick={() => {
          pointFor(null);
          editor.lane.editLane(`Delete handle ${handle.name}`, (lane) => withHandleRemoved(lane, index));
        }}
      >
        <DeleteIcon sx={{ fontSize: 15 }} />
      </IconButton>
    </Box>
  );
}

const what = ({ moves }: Handle) =>
  `Moves ${moves.length === 1 ? 'one control' : `${moves.length} controls`}; in the middle everything is as it was saved. What you change by hand stays as a distance.`;

/** The overall controls of a lane, above it. */
export function HandlesStrip() {
  const house = useLane(({ version }) => version.lane.house);
  const version = useLane((state) => state.version.id);
  useEffect(() => () => pointFor(null), [version]);
  return house ? <Strip key={version} house={house} /> : null;
}

function Strip({ house }: { house: House }) {
  const editor = useEditor();
  const [making, setMaking] = useState(house.handles.length === 0);
  const pointing = usePointing((state) => state.handle);
  const { handles, amountPercent, name, scales } = house;
  const move = (label: string, next: House) => editor.lane.editLane(label, (lane) => withHouse(lane, next));
  const finish = () => {
    pointFor(null);
    setMaking(!making);
  };
  return (
    <Box
      component="section"
      aria-label="Handles"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 2,
        px: 2,
        py: 0.5,
        minHeight: 46,
        flexShrink: 0,
        borderBottom: 1,
        borderColor: 'divider',
        flexWrap: making ? 'wrap' : undefined,
        overflowX: 'auto',
      }}
    >
      <Box sx={{ fontSize: 12, color: 'text.secondary', width: 110, flexShrink: 0, lineHeight: 1.25 }}>
        {name || 'Handles'}
      </Box>
      {making ? (
        <>
          {handles.map((handle, index) => (
            <Editing key={index} {...{ handle, index }} />
          ))}
          {handles.length < MOST_HANDLES && (
            <Button
              size="small"
              variant="outlined"
              onClick={() => {
                editor.lane.editLane('Add a handle', withHandleAdded);
                pointFor(handles.length);
              }}
              sx={{ flexShrink: 0 }}
            >
              Add a handle
            </Button>
          )}
        </>
      ) : (
        <>
          {handles.map((handle, index) => (
            <Overall
              key={index}
              title={handle.name}
              help={what(handle)}
              percent={handle.percent}
              most={100}
              rest={REST_PERCENT}
              onPercent={(percent) => move(handle.name, withHandleAt(house, index, percent))}
            />
          ))}
          {scales.length > 0 && (
            <Overall
              title="Amount"
              help="All of it together: gains, ratios, drives and widths from nothing to half as much again. 100 is as it was saved."
              percent={amountPercent}
              most={150}
              rest={100}
              onPercent={(percent) => move('Amount', { ...house, amountPercent: percent })}
            />
          )}
        </>
      )}
      <Box sx={{ flex: 1 }} />
      {making && (
        <Button
          size="small"
          color="inherit"
          onClick={() => editor.lane.editLane('Remove the handles', withoutHouse)}
          sx={{ flexShrink: 0 }}
        >
          Remove all
        </Button>
      )}
      <Button size="small" color="inherit" onClick={finish} sx={{ flexShrink: 0 }}>
        {making ? 'Done' : 'Edit handles'}
      </Button>
      {making && pointing !== null && (
        <Box role="status" sx={{ fontSize: 12, color: 'text.secondary', width: '100%' }}>
          Open a stage and press “Add” at each control that “{handles[pointing]?.name}” should move.
        </Box>
      )}
    </Box>
  );
}
