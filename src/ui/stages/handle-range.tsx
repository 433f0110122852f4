'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { withMoveAdded, withMoveRange, withMoveRemoved } from '../../core/house/edit-handles';
import type { HandleMove } from '../../core/house/schema';
import { heldTo } from '../../core/lane/control-path';
import type { Quantity } from '../../core/stages/setting';
import { figure } from '../kit/format';
import { decimalsOf, typedValue } from '../kit/typed-value';
import { FIGURE_FACE } from '../theme/theme';
import { useEditor, useLane } from '../track/context';
import { usePointing } from '../track/house/pointing';

/** One end of a range, typed. */
function End({
  label,
  quantity,
  value,
  onValue,
}: {
  label: string;
  quantity: Quantity;
  value: number;
  onValue: (value: number) => void;
}) {
  const [typing, setTyping] = useState<string | null>(null);
  const shown = figure(value, decimalsOf(quantity.step));
  const finish = () => {
    const typed = typing === null || typing === shown ? null : typedValue(typing, quantity);
    setTyping(null);
    if (typed && 'value' in typed) onValue(heldTo(quantity, typed.value));
  };
  return (
    <Box
      component="input"
      aria-label={label}
      value={typing ?? shown}
      onChange={({ target }: { target: HTMLInputElement }) => setTyping(target.value)}
      onBlur={finish}
      onKeyDown={({ key }: { key: string }) => key === 'Enter' && finish()}
      sx={{
        ...{ width: 58, fontFamily: FIGURE_FACE, fontSize: 12, textAlign: 'right', bgcolor: 'background.paper' },
        ...{ color: 'inherit', border: 1, borderColor: 'divider', borderRadius: 1, px: 0.5 },
      }}
    />
  );
}

/** Under a control while handles are made: takes it into the chosen handle, and says from where to where it is moved. */
export function HandleRange({ stage, control, quantity }: { stage: string; control: string; quantity: Quantity }) {
  const editor = useEditor();
  const index = usePointing(({ handle }) => handle);
  const handle = useLane(({ version }) => (index === null ? undefined : version.lane.house?.handles[index]));
  if (index === null || !handle) return null;
  const move = handle.moves.find((each) => each.stage === stage && each.control === control);
  const edit = (label: string, change: Parameters<typeof editor.lane.editLane>[1]) => {
    editor.lane.editLane(label, change);
    void editor.lane.flush();
  };
  const name = quantity.title.toLowerCase();
  if (!move)
    return (
      <Button
        size="small"
        variant="outlined"
        aria-label={`Add ${name} to ${handle.name}`}
        onClick={() => edit(`${handle.name} moves ${name}`, (lane) => withMoveAdded(lane, index, stage, control))}
        sx={{ justifySelf: 'end', alignSelf: 'end', py: 0, fontSize: 12 }}
      >
        Add to “{handle.name}”
      </Button>
    );
  const range = (part: Partial<Pick<HandleMove, 'from' | 'to'>>) =>
    edit(`${handle.name}: range of ${name}`, (lane) => withMoveRange(lane, index, { stage, control }, part));
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'flex-end', gap: 0.75, fontSize: 12, pb: 0.5 }}>
      {handle.name}
      <End
        label={`${quantity.title} at 0 %`}
        quantity={quantity}
        value={move.from}
        onValue={(from) => range({ from })}
      />
      to
      <End label={`${quantity.title} at 100 %`} quantity={quantity} value={move.to} onValue={(to) => range({ to })} />
      {quantity.unit}
      <Button
        size="small"
        color="inherit"
        aria-label={`Take ${name} out of ${handle.name}`}
        onClick={() => edit(`${handle.name} leaves ${name}`, (lane) => withMoveRemoved(lane, index, stage, control))}
        sx={{ py: 0, fontSize: 12 }}
      >
        Take out
      </Button>
    </Box>
  );
}
