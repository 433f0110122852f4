'use client';

import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Tooltip from '@mui/material/Tooltip';
import { useEffect, useState } from 'react';
import { stepsSchema, type Steps } from '../../contracts/version';
import { api } from '../api';
import { dateAndTime } from '../kit/format';
import { useEditor, useLane } from './context';

/** The steps of the open version, the newest first; one is gone to by a press. */
export function HistoryList() {
  const editor = useEditor();
  const id = useLane((state) => state.version.id);
  const step = useLane((state) => state.version.step);
  const last = useLane((state) => state.version.redo);
  const unsaved = useLane((state) => state.unsaved);
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
  }, [id, step, last]);

  return (
    <Box component="section" aria-label="History" sx={{ minHeight: 0, display: 'flex', flexDirection: 'column' }}>
      <Box component="h3" sx={{ m: 0, fontSize: 12, fontWeight: 400, color: 'text.secondary' }}>
        History
      </Box>
      <Box component="ol" sx={{ m: 0, p: 0, listStyle: 'none', overflowY: 'auto', minHeight: 0 }} tabIndex={-1}>
        {[...unsaved].reverse().map((label, i) => (
          <Box component="li" key={`unsaved-${i}`} sx={{ ...LINE, color: 'warning.main' }}>
            <span>{label}</span>
            <span>not saved</span>
          </Box>
        ))}
        {steps.map(({ step: each, label, at }) => (
          <li key={each}>
            <Tooltip title={dateAndTime(at)} placement="left">
              <ButtonBase
                aria-current={each === step ? 'step' : undefined}
                onClick={() => void editor.lane.goTo(each)}
                sx={{
                  ...LINE,
                  ...(each === step && { fontWeight: 650, bgcolor: 'lane.sunken' }),
                  ...(each > step && { color: 'text.secondary', fontStyle: 'italic' }),
                }}
              >
                <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
                  {label}
                </Box>
                {each === step && <span>now</span>}
                {each > step && <span>undone</span>}
              </ButtonBase>
            </Tooltip>
          </li>
        ))}
      </Box>
    </Box>
  );
}

const LINE = {
  ...{ display: 'flex', width: '100%', justifyContent: 'space-between', gap: 1, px: 0.75, minHeight: 26 },
  ...{ alignItems: 'center', font: 'inherit', fontSize: 12.5, textAlign: 'left', borderBottom: 1 },
  borderColor: 'divider',
} as const;
