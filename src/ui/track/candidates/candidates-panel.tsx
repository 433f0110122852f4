'use client';

import AddIcon from '@mui/icons-material/Add';
import CloseIcon from '@mui/icons-material/Close';
import DownIcon from '@mui/icons-material/KeyboardArrowDown';
import UpIcon from '@mui/icons-material/KeyboardArrowUp';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { useRef, type ReactNode } from 'react';
import { MOST_CANDIDATES, type Candidate } from '../../../contracts/candidate';
import { FIGURE_FACE } from '../../theme/theme';
import { useAudition, useCandidates, useEditor, useLane, useTrack } from '../context';
import { candidateId, candidateTitle, possibleCandidates } from './candidate-title';
import type { CandidateEntry } from './candidates';
import { gainWords } from './gain-words';
import { ReferenceControls } from './reference-controls';
import { useArrivingReferences } from './use-arriving-references';

/** Under what the candidates that can be added stand. */
const GROUPS: [Candidate['kind'][], string][] = [
  [['mix', 'edited'], 'Mixes and master'],
  [['version'], 'Versions'],
  [['without'], 'The master without one stage'],
  [['track'], 'Masters of the release'],
  [['reference'], 'References'],
  [['delivery'], 'Delivered files'],
];

function Small({ title, onClick, disabled, icon }: SmallProps) {
  return (
    <Tooltip title={title}>
      <span>
        <IconButton size="small" aria-label={title} disabled={disabled} onClick={onClick}>
          {icon}
        </IconButton>
      </span>
    </Tooltip>
  );
}
interface SmallProps {
  title: string;
  onClick: () => void;
  disabled?: boolean;
  icon: ReactNode;
}

function Row({ entry, place, count, onRemove }: RowProps) {
  const { candidates } = useEditor();
  const gainDb = useAudition((state) => state.gainsDb[entry.id] as number | undefined);
  const { id, full, share, problem } = entry;
  return (
    <Box
      component="li"
      sx={{ display: 'flex', alignItems: 'center', gap: 1, py: 0.25, borderBottom: 1, borderColor: 'divider' }}
    >
      <Box component="span" sx={{ fontFamily: FIGURE_FACE, width: 14 }}>
        {place + 1}
      </Box>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Box sx={{ overflowWrap: 'anywhere' }}>{full}</Box>
        <Box sx={{ fontSize: 12, color: problem ? 'error.main' : 'text.secondary' }}>
          {problem ?? (share === null ? gainWords(gainDb) : `${Math.round(100 * share)} % ready`)}
        </Box>
        {entry.what.kind === 'reference' && <ReferenceControls id={id} what={entry.what} full={full} />}
      </Box>
      <Small
        title={`Move ${full} up`}
        icon={<UpIcon fontSize="small" />}
        disabled={place === 0}
        onClick={() => candidates.move(id, -1)}
      />
      <Small
        title={`Move ${full} down`}
        icon={<DownIcon fontSize="small" />}
        disabled={place === count - 1}
        onClick={() => candidates.move(id, 1)}
      />
      <Small title={`Remove ${full}`} icon={<CloseIcon fontSize="small" />} disabled={count === 1} onClick={onRemove} />
    </Box>
  );
}

interface RowProps {
  entry: CandidateEntry;
  place: number;
  count: number;
  onRemove: () => void;
}

/** The candidates in their order, and everything else that could be one. */
export function CandidatesPanel({ onBlindTest, onReferences }: { onBlindTest: () => void; onReferences: () => void }) {
  const { candidates } = useEditor();
  const entries = useCandidates((state) => state.entries);
  const details = useTrack((state) => state.details);
  const version = useLane((state) => state.version);
  const known = { details, lane: version.lane };
  const possible = possibleCandidates(known, version.id).filter(
    (what) => !entries.some(({ id }) => id === candidateId(what)),
  );
  const arriving = useArrivingReferences();
  const full = entries.length >= MOST_CANDIDATES;
  const panel = useRef<HTMLDivElement>(null);
  // A button that does its work here is gone after it: the keys then go on from the panel.
  const doing = (work: () => void) => () => {
    work();
    panel.current?.focus();
  };
  return (
    <Box ref={panel} tabIndex={-1} sx={{ outline: 'none' }}>
      <Typography variant="h3" component="h2">
        Candidates
      </Typography>
      <Box sx={{ color: 'text.secondary', fontSize: 12.5, mb: 0.5 }}>
        All of them play at the same place and at matched level. Each needs memory as long as it is here.
      </Box>
      <Box component="ol" aria-label="Chosen candidates" sx={{ m: 0, p: 0, listStyle: 'none' }}>
        {entries.map((entry, place) => (
          <Row
            key={entry.id}
            entry={entry}
            place={place}
            count={entries.length}
            onRemove={doing(() => candidates.remove(entry.id))}
          />
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
        <Button size="small" variant="outlined" onClick={onBlindTest}>
          Blind test…
        </Button>
        <Button size="small" variant="outlined" onClick={onReferences}>
          Master and references…
        </Button>
      </Box>
      {full && (
        <Box sx={{ mt: 1, fontSize: 12.5 }}>There are keys for {MOST_CANDIDATES}. Remove one to add another.</Box>
      )}
      {GROUPS.map(([kinds, title]) => {
        const group = possible.filter(({ kind }) => kinds.includes(kind));
        if (group.length === 0) return null;
        return (
          <Box key={title} component="section" aria-label={title} sx={{ mt: 1.5 }}>
            <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>{title}</Box>
            {group.map((what) => {
              const name = candidateTitle(what, known);
              return (
                name && (
                  <Button
                    key={candidateId(what)}
                    fullWidth
                    color="inherit"
                    disabled={full}
                    aria-label={`Add ${name.full}`}
                    startIcon={<AddIcon fontSize="small" />}
                    onClick={doing(() => candidates.add(what))}
                    sx={{ justifyContent: 'flex-start', textAlign: 'left', fontWeight: 400, py: 0.25 }}
                  >
                    {name.full}
                  </Button>
                )
              );
            })}
          </Box>
        );
      })}
      {arriving.map(({ id, title }) => (
        <Box key={id} sx={{ mt: 1, fontSize: 12.5, color: 'text.secondary' }}>
          Reference “{title}” is still being measured.
        </Box>
      ))}
    </Box>
  );
}
