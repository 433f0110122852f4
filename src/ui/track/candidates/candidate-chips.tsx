'use client';

import AddIcon from '@mui/icons-material/Add';
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import IconButton from '@mui/material/IconButton';
import Popover from '@mui/material/Popover';
import Tooltip from '@mui/material/Tooltip';
import { useState } from 'react';
import { FIGURE_FACE } from '../../theme/theme';
import { useAudition, useCandidates, useEditor } from '../context';
import { ReferencesDialog } from '../compare/references-dialog';
import { KEYS } from '../key-table';
import { candidateInk } from './candidate-ink';
import type { CandidateEntry } from './candidates';
import { CandidatesPanel } from './candidates-panel';
import { gainWords } from './gain-words';

const INKS = { copper: 'secondary.main', patina: 'primary.main', ink: 'text.primary' } as const;

function Chip({ entry, place, crowded }: { entry: CandidateEntry; place: number; crowded: boolean }) {
  const editor = useEditor();
  const heard = useAudition((state) => state.heard === entry.id);
  const taken = useAudition((state) => state.difference && state.other === entry.id);
  const gainDb = useAudition((state) => state.gainsDb[entry.id] as number | undefined);
  const { share, problem, full, short } = entry;
  const state = problem ?? (share === null ? gainWords(gainDb) : `${Math.round(100 * share)} % ready`);
  const color = INKS[candidateInk(entry.what.kind)];
  return (
    <Tooltip title={`${full}: ${state} (${place + 1})`}>
      <ButtonBase
        aria-label={`${place + 1} ${short}`}
        aria-description={state}
        aria-pressed={heard}
        onClick={() => editor.audition.listen(entry.id)}
        sx={{
          ...{ height: 26, minWidth: 26, px: 0.75, gap: 0.6, fontSize: 13, fontWeight: 650 },
          ...{ border: '1.5px solid', borderColor: taken ? color : 'divider', borderRadius: 1, overflow: 'hidden' },
          ...{ flex: heard || !crowded ? '0 1 auto' : '0 0 auto', position: 'relative', justifyContent: 'flex-start' },
          bgcolor: heard ? color : 'background.paper',
          color: heard ? 'background.paper' : 'text.primary',
          borderStyle: problem ? 'dashed' : 'solid',
          ...(heard && { borderColor: color }),
        }}
      >
        {/* One that is on its way fills up. */}
        {share !== null && (
          <Box
            sx={{ position: 'absolute', inset: 0, width: `${100 * share}%`, bgcolor: color, opacity: 0.25 }}
            aria-hidden
          />
        )}
        <Box component="span" sx={{ fontFamily: FIGURE_FACE, fontSize: 12, color: heard ? 'inherit' : color }}>
          {place + 1}
        </Box>
        {(heard || !crowded) && (
          <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
            {short}
          </Box>
        )}
      </ButtonBase>
    </Tooltip>
  );
}

/** Chips shown with their names before only the one that is heard has room for its name. */
const NAMED = { full: 4, narrow: 2 };

/** What can be heard, as numbered chips, and the way to more. */
export function CandidateChips({ narrow }: { narrow: boolean }) {
  const { blind } = useEditor();
  const entries = useCandidates((state) => state.entries);
  const [references, setReferences] = useState(false);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const crowded = entries.length > (narrow ? NAMED.narrow : NAMED.full);
  const beginBlindTest = () => {
    setAnchor(null);
    blind.show(true);
  };
  const compareReferences = () => {
    setAnchor(null);
    setReferences(true);
  };
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, minWidth: 0 }}>
      <Box
        role="group"
        aria-label="What is heard"
        sx={{ display: 'flex', gap: 0.5, minWidth: 0, flex: '0 1 auto', overflow: 'hidden', p: '3px', m: '-3px' }}
      >
        {entries.map((entry, place) => (
          <Chip key={entry.id} entry={entry} place={place} crowded={crowded} />
        ))}
      </Box>
      <Tooltip title={`Add, order and remove candidates; ${KEYS.candidate.label} switches between them`}>
        <IconButton
          size="small"
          aria-label="Candidates"
          aria-haspopup="dialog"
          onClick={({ currentTarget }) => setAnchor(currentTarget)}
          sx={{ p: 0.25, flexShrink: 0 }}
        >
          <AddIcon fontSize="small" />
        </IconButton>
      </Tooltip>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{
          paper: { role: 'dialog', 'aria-label': 'Candidates', sx: { width: 480, maxHeight: '76vh', p: 2 } },
        }}
      >
        <CandidatesPanel onBlindTest={beginBlindTest} onReferences={compareReferences} />
      </Popover>
      {references && <ReferencesDialog onClose={() => setReferences(false)} />}
    </Box>
  );
}
