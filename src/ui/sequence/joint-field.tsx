'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import { useEffect, useState } from 'react';
import { FADE_SHAPE_TEXTS } from '../../core/sequence/edge-words';
import { FADE_SHAPES } from '../../core/sequence/edges';
import { DISC_FRAMES, jointSchema, USUAL_JOINT, type Joint } from '../../core/sequence/joint';
import { TimeField } from '../kit/time-field';
import { discFramesOfSeconds } from './sequence';

/** What can be chosen: a gap, a segue (a gap of nothing), or a crossfade of some shape. */
const KINDS = [
  { value: 'gap', title: 'Gap' },
  { value: 'segue', title: 'Segue, no gap' },
  ...FADE_SHAPES.map((shape) => ({
    value: shape,
    title: `Crossfade, ${FADE_SHAPE_TEXTS[shape].title.toLowerCase()}`,
  })),
] as const;
type Kind = (typeof KINDS)[number]['value'];

/** Length of a new crossfade. */
const NEW_CROSSFADE = 2 * DISC_FRAMES;

function kindOf(joint: Joint): Kind {
  if (joint.kind === 'crossfade') return joint.shape;
  return joint.discFrames === 0 ? 'segue' : 'gap';
}

function jointOf(kind: Kind, before: Joint): Joint {
  if (kind === 'gap') return USUAL_JOINT;
  if (kind === 'segue') return { kind: 'gap', discFrames: 0 };
  const discFrames = before.kind === 'crossfade' ? before.discFrames : NEW_CROSSFADE;
  return { kind: 'crossfade', discFrames, shape: kind };
}

/** How a track follows the one before it. What is chosen shows at once, before the server has answered. */
export function JointField({
  title,
  joint: saved,
  onChange,
}: {
  title: string;
  joint: Joint;
  onChange: (joint: Joint) => void;
}) {
  const [chosen, setChosen] = useState<Joint | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const joint = chosen ?? saved;
  const kind = kindOf(joint);
  // Also where the server refused it: then the saved one comes again.
  useEffect(() => setChosen(null), [saved]);
  const choose = (next: Joint) => {
    setChosen(next);
    onChange(next);
  };
  return (
    <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'flex-start' }}>
      <Select
        size="small"
        value={kind}
        inputProps={{ 'aria-label': `How “${title}” follows` }}
        onChange={({ target }) => choose(jointOf(target.value, joint))}
        sx={{ width: 132, fontSize: 13 }}
      >
        {KINDS.map(({ value, title: name }) => (
          <MenuItem key={value} value={value}>
            {name}
          </MenuItem>
        ))}
      </Select>
      {kind !== 'segue' && (
        <TimeField
          label={joint.kind === 'crossfade' ? 'Over' : 'Of'}
          text={(joint.discFrames / DISC_FRAMES).toFixed(2)}
          unit="s"
          width={92}
          told={problem}
          onChange={(seconds) => {
            const discFrames = discFramesOfSeconds(seconds);
            const read = jointSchema.safeParse({ ...joint, discFrames });
            if (!read.success) return setProblem(read.error.issues[0].message);
            const rounded = Math.abs(discFrames / DISC_FRAMES - seconds) > 0.0005;
            setProblem(rounded ? `${discFrames} frames of a disc: ${(discFrames / DISC_FRAMES).toFixed(3)} s` : null);
            choose(read.data);
          }}
        />
      )}
    </Box>
  );
}
