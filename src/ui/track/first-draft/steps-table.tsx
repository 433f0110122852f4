import Box from '@mui/material/Box';
import Slider from '@mui/material/Slider';
import Switch from '@mui/material/Switch';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useState } from 'react';
import { DRAFT_STEPS, SCALED_STEPS, type DraftStepId, type StepChoice } from '../../../core/draft/first-draft/request';
import type { DraftStep } from '../../../core/draft/first-draft/step';
import { figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';

/** How much of a step is wanted; told when the move has ended. */
function Strength({
  title,
  percent,
  onStrength,
}: {
  title: string;
  percent: number;
  onStrength: (percent: number) => void;
}) {
  const [moved, setMoved] = useState<number | null>(null);
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
      <Slider
        size="small"
        min={0}
        max={150}
        step={5}
        value={moved ?? percent}
        aria-label={`Strength of ${title}`}
        getAriaValueText={(value) => `${value} %`}
        onChange={(_, value) => setMoved(value)}
        onChangeCommitted={(_, value) => {
          setMoved(null);
          onStrength(value);
        }}
        sx={{ width: 84 }}
      />
      <Box component="span" sx={{ fontFamily: FIGURE_FACE, fontSize: 12, minWidth: 40 }}>
        {moved ?? percent} %
      </Box>
    </Box>
  );
}

/** The steps of a draft with their reasons, to be refused or weakened; what was not needed comes last. */
export function StepsTable({
  steps,
  onChoice,
}: {
  steps: readonly DraftStep[];
  onChoice: (id: DraftStepId, choice: StepChoice) => void;
}) {
  const needed = steps.filter((step) => step.needed);
  const spared = steps.filter((step) => !step.needed);
  return (
    <>
      <Table size="small" aria-label="Steps of the draft" sx={{ '& td, & th': { verticalAlign: 'top', px: 1 } }}>
        <TableHead>
          <TableRow>
            <TableCell>Step</TableCell>
            <TableCell>Why</TableCell>
            <TableCell>takes, dB</TableCell>
            <TableCell>Strength</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {needed.map(({ id, reason, on, strengthPercent, takesDb }) => (
            <TableRow key={id} sx={{ color: on ? undefined : 'text.secondary' }}>
              <TableCell component="th" scope="row" sx={{ whiteSpace: 'nowrap', color: 'inherit', fontWeight: 650 }}>
                <Switch
                  size="small"
                  checked={on}
                  onChange={(_, next) => onChoice(id, { on: next, strengthPercent })}
                  slotProps={{ input: { 'aria-label': DRAFT_STEPS[id] } }}
                  sx={{ mr: 0.5, my: -0.5 }}
                />
                {DRAFT_STEPS[id]}
              </TableCell>
              <TableCell sx={{ color: 'inherit', lineHeight: 1.4 }}>{on ? reason : `Refused. ${reason}`}</TableCell>
              <TableCell sx={{ fontFamily: FIGURE_FACE, color: 'inherit' }}>
                {takesDb !== null && takesDb >= 0.05 ? figure(takesDb) : '–'}
              </TableCell>
              <TableCell>
                {SCALED_STEPS.has(id) && on && (
                  <Strength
                    title={DRAFT_STEPS[id].toLowerCase()}
                    percent={strengthPercent}
                    onStrength={(percent) => onChoice(id, { on, strengthPercent: percent })}
                  />
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {spared.length > 0 && (
        <Box
          component="ul"
          aria-label="Not needed"
          sx={{ m: 0, mt: 1.5, pl: 2.5, fontSize: 12.5, color: 'text.secondary' }}
        >
          {spared.map(({ id, reason }) => (
            <li key={id}>
              <b>{DRAFT_STEPS[id]}</b>: not needed. {reason}
            </li>
          ))}
        </Box>
      )}
    </>
  );
}
