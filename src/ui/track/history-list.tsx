'use client';

import CopyIcon from '@mui/icons-material/ContentCopy';
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import { useEffect, useState } from 'react';
import { newVersionSchema, stepsSchema, type Steps } from '../../contracts/version';
import { reading, readingText } from '../../core/measure/reading';
import { api } from '../api';
import { dateAndTime } from '../kit/format';
import { NameDialog } from '../kit/name-dialog';
import { FIGURE_FACE } from '../theme/theme';
import { useEditor, useLane, useMeasurements } from './context';

type Step = Steps[number];

/** The steps of the open version as the server has them, the newest first, with the figures of the open one as measured here. */
function useSteps(): Steps {
  const id = useLane((state) => state.version.id);
  const step = useLane((state) => state.version.step);
  const next = useLane((state) => state.version.redo);
  const upToDate = useLane((state) => state.saving === 'saved');
  const master = useMeasurements(({ measurement, share }) => (share === null ? measurement?.master : undefined));
  const [steps, setSteps] = useState<Steps>([]);
  useEffect(() => {
    let left = false;
    // Without the server the list stays as it was.
    api(stepsSchema, `/api/versions/${id}/steps`).then(
      (found) => !left && setSteps(found),
      () => {},
    );
    return () => {
      left = true;
    };
  }, [id, step, next]);
  const figures = upToDate && master ? master : null;
  return steps.map((each) => (each.step === step && figures ? { ...each, figures } : each));
}

/** "−14.0 LUFS, −1.0 dBTP, PLR 13.0" in short; nothing where it is not known. */
function figuresOf({ figures }: Step): string {
  if (!figures) return '';
  const { integratedLufs, truePeakDbtp, plrLu } = figures;
  const text = (kind: 'loudness' | 'truePeak' | 'loudnessDifference', value: number | null) =>
    readingText(reading(kind, value));
  return `${text('loudness', integratedLufs)} LUFS  ${text('truePeak', truePeakDbtp)} dBTP  PLR ${text('loudnessDifference', plrLu)}`;
}

function StepLine({ step, current, onCopy }: { step: Step; current: number; onCopy: () => void }) {
  const editor = useEditor();
  const open = step.step === current;
  const undone = step.step > current;
  return (
    <Box
      component="li"
      sx={{ display: 'flex', borderBottom: 1, borderColor: 'divider', ...(open && { bgcolor: 'lane.sunken' }) }}
    >
      <Tooltip title={dateAndTime(step.at)} placement="left">
        <ButtonBase
          aria-current={open ? 'step' : undefined}
          onClick={() => void editor.lane.goTo(step.step)}
          sx={{
            ...{ flex: 1, minWidth: 0, display: 'block', px: 0.75, py: 0.25, font: 'inherit', textAlign: 'left' },
            ...(open && { fontWeight: 650 }),
            ...(undone && { color: 'text.secondary', fontStyle: 'italic' }),
          }}
        >
          <Box sx={{ ...LINE, minHeight: 22 }}>
            <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
              {step.label}
            </Box>
            <span>{open ? 'now' : undone ? 'undone' : ''}</span>
          </Box>
          <Box
            sx={{ fontFamily: FIGURE_FACE, fontSize: 12, fontWeight: 400, color: 'text.secondary', whiteSpace: 'pre' }}
          >
            {figuresOf(step)}
          </Box>
        </ButtonBase>
      </Tooltip>
      <Tooltip title="New version from here">
        <IconButton
          aria-label={`New version from “${step.label}”`}
          onClick={onCopy}
          sx={{ width: 28, borderRadius: 1 }}
        >
          <CopyIcon sx={{ fontSize: 15 }} />
        </IconButton>
      </Tooltip>
    </Box>
  );
}

/** The history of the open version: what was done, when, and what the master was then. A press goes back to a step. */
export function HistoryList() {
  const editor = useEditor();
  const current = useLane((state) => state.version.step);
  const unsaved = useLane((state) => state.unsaved);
  const steps = useSteps();
  const [copied, setCopied] = useState<Step | null>(null);
  return (
    <Box component="section" aria-label="History" sx={{ minHeight: 0, display: 'flex', flexDirection: 'column' }}>
      <Box component="h3" sx={{ m: 0, fontSize: 12, fontWeight: 400, color: 'text.secondary' }}>
        History
      </Box>
      <Box component="ol" sx={{ m: 0, p: 0, listStyle: 'none', overflowY: 'auto', minHeight: 0 }}>
        {[...unsaved].reverse().map((label, i) => (
          <Box component="li" key={`unsaved-${i}`} sx={{ ...LINE, px: 0.75, minHeight: 26, color: 'warning.main' }}>
            <span>{label}</span>
            <span>not saved</span>
          </Box>
        ))}
        {steps.map((step) => (
          <StepLine key={step.step} step={step} current={current} onCopy={() => setCopied(step)} />
        ))}
      </Box>
      {copied && (
        <NameDialog
          title={`New version from “${copied.label}”`}
          hint="Such as “before the clipper”"
          action="Create"
          name=""
          schema={newVersionSchema.shape.name}
          onName={(name) => editor.copyVersion(name, copied.step)}
          onClose={() => setCopied(null)}
        />
      )}
    </Box>
  );
}

const LINE = {
  display: 'flex',
  justifyContent: 'space-between',
  alignItems: 'center',
  gap: 1,
  fontSize: 12.5,
} as const;
