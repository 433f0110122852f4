'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import Slider from '@mui/material/Slider';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { z } from 'zod';
import { sentenceOf } from '../../../core/sentence-of';
import { draftHabitsSchema } from '../../../contracts/draft';
import type { Destination } from '../../../core/deliver/destination';
import { READY_MADE } from '../../../core/deliver/ready-made';
import type { Draft } from '../../../core/draft/first-draft/draft';
import {
  CHARACTERS,
  INTENSITIES,
  draftWishesSchema,
  intensityTitle,
  type Character,
  type DraftWishes,
} from '../../../core/draft/first-draft/request';
import { habitsOf, leaning, type Habits, type takenDraftSchema } from '../../../core/draft/first-draft/habits';
import { api, send } from '../../api';
import { figure } from '../../kit/format';
import { HABITS_KEY } from '../../settings/drafts-form';
import { MAX_LABEL } from '../../../contracts/version';
import { useEditor, useLane, useTrack } from '../context';
import { LaneRibbon } from '../lane/lane-ribbon';
import { keepWishes, wishesOf } from './kept-wishes';
import { StepsTable } from './steps-table';
import { useDraft, useSolver } from './use-draft';

/** Why a draft does not reach its loudness. */
const OBSTACLES: Record<NonNullable<Draft['meeting']['obstacle']>, string> = {
  range: 'its limiter can’t be driven further',
  saturated: 'more drive makes it no louder',
  peaks: 'without a limiter its peaks are in the way',
  moments: 'its loudest moments are in the way',
  silence: 'there is no sound',
};

/** What a draft comes to, in a sentence. */
function outcome({ meeting, aimLufs }: Draft, { name, loudness }: Destination): string {
  const { met, reading, missingDb, obstacle } = meeting;
  const figures = `Comes to ${figure(reading.integratedLufs)} LUFS at ${figure(reading.truePeakDbtp)} dBTP`;
  if (met) return `${figures}: meets ${name}.`;
  const short = `${figure(Math.abs(missingDb))} LU ${missingDb > 0 ? 'below' : 'above'} ${figure(aimLufs)} LUFS`;
  const why = obstacle ? OBSTACLES[obstacle] : 'no better setting was found';
  // Where no loudness is asked for, the intensity chose one.
  return `${figures}${loudness?.rule === 'target' ? '' : `: meets ${name}`}, ${short}: ${why}.`;
}

/** A lane that is drafted from the mix. It waits for what is usually done to drafts, where they lean that way. */
export function FirstDraftDialog(props: Omit<Parameters<typeof Sheet>[0], 'habits'>) {
  const { data, isPending } = useQuery({
    queryKey: HABITS_KEY,
    queryFn: () => api(draftHabitsSchema, '/api/drafts'),
    retry: false,
  });
  if (isPending) return null;
  return <Sheet {...props} habits={data?.leans ? habitsOf(data.drafts) : {}} />;
}

/** One sheet: what is wanted above, then each step with its reason. */
function Sheet({
  habits,
  onClose,
  onBoth,
}: {
  /** What drafts lean towards; empty where they do not. */
  habits: Habits;
  onClose: () => void;
  /** Told the ids of two versions that were made of drafts. */
  onBoth: (ids: [string, string]) => void;
}) {
  const editor = useEditor();
  const client = useQueryClient();
  const { track, references, mix, ...details } = useTrack((state) => state.details);
  const destinations = details.destinations.length > 0 ? details.destinations : [{ id: '', settings: READY_MADE[0] }];
  const before = wishesOf(track.id);
  const [destinationId, setDestination] = useState(
    () => (destinations.find(({ id }) => id === before?.destinationId) ?? destinations[0]).id,
  );
  const [referenceId, setReference] = useState(() => before?.referenceId ?? null);
  const [wishes, setWishes] = useState<DraftWishes>(
    () => before?.wishes ?? leaning(draftWishesSchema.parse({}), habits),
  );
  const [intensity, setIntensity] = useState<number | null>(null);
  const [making, setMaking] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const destination = (destinations.find(({ id }) => id === destinationId) ?? destinations[0]).settings;
  const chosen = references.find(({ id, report }) => id === referenceId && report);
  const reference = chosen
    ? { name: chosen.title, balanceDb: chosen.report!.balance.map(({ levelDbfs }) => levelDbfs) }
    : null;
  const edges = useLane((state) => state.version.lane.edges);
  const { runner, problem: unready } = useSolver();
  const { draft, busy, problem } = useDraft(runner, destination, wishes, reference, edges);
  const faults = mix?.report?.findings.filter(({ weight }) => weight === 'fault') ?? [];
  const trouble = unready ?? problem ?? failure;
  const waiting = busy || making;

  /** Remembers what is wanted, and counts what was done to the draft. */
  const keep = (of: Draft) => {
    keepWishes({ trackId: track.id, destinationId, referenceId: chosen?.id ?? null, wishes });
    const needed = of.steps.flatMap((step) => (step.needed ? [step.id] : []));
    const body = { wishes, needed } satisfies z.input<typeof takenDraftSchema>;
    void send('/api/drafts', { method: 'POST', body }).then(
      () => client.invalidateQueries({ queryKey: HABITS_KEY }),
      // It is a statistic: work goes on without it.
      () => {},
    );
  };
  const take = () => {
    if (!draft) return;
    keep(draft);
    editor.lane.beginFrom(`First draft for ${destination.name}`.slice(0, MAX_LABEL), draft.lane);
    onClose();
  };
  const takeBoth = async () => {
    if (!runner || !draft) return;
    setMaking(true);
    setFailure(null);
    try {
      keep(draft);
      const drafts = [];
      for (const character of Object.keys(CHARACTERS) as Character[]) {
        const made = await runner.draft(destination, { ...wishes, character }, reference, edges);
        if (!made) return setMaking(false);
        drafts.push({ name: `${CHARACTERS[character]} draft`, lane: made.lane });
      }
      onBoth(await editor.addDrafts(drafts));
      onClose();
    } catch (error) {
      setFailure(sentenceOf(error));
      setMaking(false);
    }
  };
  return (
    <Dialog open onClose={onClose} maxWidth="lg" fullWidth>
      <DialogTitle sx={{ pb: 1 }}>First draft</DialogTitle>
      <DialogContent>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 3, pt: 1 }}>
          <TextField
            select
            size="small"
            label="For"
            value={destinationId}
            onChange={({ target }) => setDestination(target.value)}
            sx={{ minWidth: 190 }}
          >
            {destinations.map(({ id, settings }) => (
              <MenuItem key={id} value={id}>
                {settings.name}
              </MenuItem>
            ))}
          </TextField>
          <Box sx={{ width: 210, px: 1 }}>
            <Slider
              size="small"
              aria-label="Intensity"
              value={intensity ?? wishes.intensityPercent}
              marks={INTENSITIES.map(({ percent, title }) => ({ value: percent, label: title }))}
              getAriaValueText={intensityTitle}
              onChange={(_, value) => setIntensity(value)}
              onChangeCommitted={(_, value) => {
                setIntensity(null);
                setWishes({ ...wishes, intensityPercent: value });
              }}
              sx={{ mb: 1.5 }}
            />
          </Box>
          <ToggleButtonGroup
            exclusive
            size="small"
            aria-label="Character"
            value={wishes.character}
            onChange={(_, character: Character | null) => character && setWishes({ ...wishes, character })}
          >
            {(Object.keys(CHARACTERS) as Character[]).map((character) => (
              <ToggleButton key={character} value={character} sx={{ textTransform: 'none', px: 1.5 }}>
                {CHARACTERS[character]}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
          <TextField
            select
            size="small"
            label="Balance like"
            value={chosen?.id ?? ''}
            onChange={({ target }) => setReference(target.value || null)}
            slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
            sx={{ minWidth: 210 }}
          >
            <MenuItem value="">Records on average</MenuItem>
            {references
              .filter(({ report }) => report !== null)
              .map(({ id, title }) => (
                <MenuItem key={id} value={id}>
                  {title}
                </MenuItem>
              ))}
          </TextField>
        </Box>
        {faults.length > 0 && (
          <Alert severity="warning" sx={{ mt: 1 }}>
            This mix should rather be sent back: {faults.map(({ title }) => title.toLowerCase()).join(', ')}. A draft
            can’t mend that, and is made all the same.
          </Alert>
        )}
        {trouble && (
          <Alert severity="error" sx={{ mt: 1 }}>
            {trouble}
          </Alert>
        )}
        <LinearProgress
          aria-label="Drafting"
          sx={{ height: 2, mt: 1, visibility: waiting && !trouble ? 'visible' : 'hidden' }}
        />
        {draft && (
          <Box sx={{ opacity: waiting ? 0.55 : 1 }}>
            <LaneRibbon lane={draft.lane} joints={draft.joints} />
            <Box role="status" sx={{ my: 1, fontWeight: 650 }}>
              {outcome(draft, destination)}
            </Box>
            <StepsTable
              steps={draft.steps}
              onChoice={(id, choice) => setWishes({ ...wishes, steps: { ...wishes.steps, [id]: choice } })}
            />
          </Box>
        )}
        {!draft && !trouble && <Box role="status">Measuring the mix…</Box>}
      </DialogContent>
      <DialogActions>
        <Box sx={{ flex: 1, pl: 2, color: 'text.secondary', fontSize: 12.5 }}>
          Replaces the stages of this version in one step, which undo takes back. Levels are those of the loudest
          passage.
        </Box>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button color="inherit" variant="outlined" disabled={!draft || waiting} onClick={() => void takeBoth()}>
          Clean and coloured as versions
        </Button>
        <Button variant="contained" disabled={!draft || waiting} onClick={take}>
          Use this draft
        </Button>
      </DialogActions>
    </Dialog>
  );
}
