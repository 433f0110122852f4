'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import Link from 'next/link';
import { useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import type { NewDeliveries } from '../../contracts/delivery';
import type { ReleaseDetail } from '../../contracts/release';
import { describeDestination } from '../../core/deliver/describe';
import { judgeAtDelivery, type AtDelivery } from '../../core/deliver/verdict';
import { DeliveryState } from '../kit/delivery-state';
import { change, count } from '../kit/format';
import { StandingMark, verdictWords } from '../kit/standing';
import { factsOfTrack } from './facts-of-track';

interface Cell {
  key: string;
  trackId: string;
  versionId: string;
  destinationId: string;
  /** Null until the master is measured. */
  at: AtDelivery | null;
}

/** Each track for each destination, by key; `adjust` lets levels change at delivery. */
function cellsOf(release: ReleaseDetail, adjust: boolean): Map<string, Cell> {
  const cells = new Map<string, Cell>();
  const { destinations } = release;
  for (const track of release.tracks) {
    const { id: trackId, mix, master } = track;
    if (!master || !mix) continue;
    const { versionId } = master;
    const facts = factsOfTrack(release, track);
    for (const { id: destinationId, settings } of destinations) {
      const key = `${trackId} ${destinationId}`;
      const at = facts && judgeAtDelivery(settings, facts, adjust);
      cells.set(key, { key, trackId, versionId, destinationId, at });
    }
  }
  return cells;
}

/**
 * Tracks down, destinations across: what is missing before, progress during, the receipt's verdict after. `onStart`
 * rejects with a sentence when nothing could be started.
 */
export function DeliverReleaseDialog({
  release,
  onStart,
  onClose,
}: {
  release: ReleaseDetail;
  onStart: (order: NewDeliveries) => Promise<void>;
  onClose: () => void;
}) {
  const [adjust, setAdjust] = useState(true);
  const cells = cellsOf(release, adjust);
  /** What was chosen by hand; the rest is chosen when it will meet. */
  const [byHand, setByHand] = useState<ReadonlyMap<string, boolean>>(new Map());
  const [started, setStarted] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const isChosen = (cell: Cell) => byHand.get(cell.key) ?? cell.at?.verdict.standing === 'meets';
  const chosen = [...cells.values()].filter(isChosen);
  const choose = (keys: string[], on: boolean) =>
    setByHand(new Map([...byHand, ...keys.map((key): [string, boolean] => [key, on])]));
  const start = async () => {
    setProblem(null);
    setStarted(true);
    try {
      await onStart({
        deliveries: chosen.map(({ trackId, versionId, destinationId, at }) => ({
          ...{ trackId, versionId, destinationId, levelDb: at?.levelDb ?? 0 },
        })),
      });
    } catch (error) {
      setStarted(false);
      setProblem(sentenceOf(error));
    }
  };

  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md">
      <DialogTitle>Deliver “{release.title}”</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary" sx={{ mb: 1.5 }}>
          The chosen version of each track is rendered for the destinations ticked here; each file gets its own receipt.
        </Typography>
        <Box
          component="table"
          aria-label="Tracks and destinations"
          sx={{
            borderCollapse: 'collapse',
            width: '100%',
            fontSize: 13,
            '& th, & td': { textAlign: 'left', p: 0.75, borderBottom: 1, borderColor: 'divider', verticalAlign: 'top' },
          }}
        >
          <thead>
            <tr>
              <th scope="col">Track</th>
              {release.destinations.map(({ id, settings }) => {
                const keys = [...cells.values()].flatMap((cell) => (cell.destinationId === id ? [cell.key] : []));
                const all = keys.every((key) => isChosen(cells.get(key)!));
                return (
                  <th key={id} scope="col">
                    <FormControlLabel
                      control={
                        <Checkbox
                          size="small"
                          checked={all}
                          disabled={started}
                          onChange={(_, on) => choose(keys, on)}
                        />
                      }
                      label={settings.name}
                      title={describeDestination(settings)}
                    />
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            {release.tracks.map(({ id, title, position, deliveries }) => (
              <tr key={id}>
                <Box component="th" scope="row" sx={{ fontWeight: 400 }}>
                  {position} · {title}
                </Box>
                {release.destinations.map(({ id: destinationId, settings }) => {
                  const cell = cells.get(`${id} ${destinationId}`);
                  if (!cell) return <td key={destinationId}>no mix yet</td>;
                  const { at } = cell;
                  const delivery = deliveries.find(({ destination }) => destination === settings.name);
                  return (
                    <td key={destinationId}>
                      <FormControlLabel
                        control={
                          <Checkbox
                            size="small"
                            checked={isChosen(cell)}
                            disabled={started}
                            slotProps={{ input: { 'aria-label': `${title} for ${settings.name}` } }}
                            onChange={(_, on) => choose([cell.key], on)}
                          />
                        }
                        disableTypography
                        label={
                          !at ? (
                            <StandingMark standing="unknown" />
                          ) : (
                            <StandingMark
                              standing={at.verdict.standing}
                              words={
                                at.levelDb !== 0 && at.verdict.standing === 'meets'
                                  ? `meets with ${change(at.levelDb)} dB`
                                  : verdictWords(at.verdict)
                              }
                            />
                          )
                        }
                      />
                      {delivery && (
                        <Box
                          component={Link}
                          href={`/deliveries/${delivery.id}`}
                          sx={{
                            ...{ display: 'flex', alignItems: 'center', gap: 0.5, minHeight: 24 },
                            ...{ color: 'text.secondary', fontSize: 12 },
                          }}
                        >
                          last file: <DeliveryState {...delivery} />
                        </Box>
                      )}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </Box>
        <FormControlLabel
          sx={{ mt: 1 }}
          control={
            <Checkbox size="small" checked={adjust} disabled={started} onChange={(_, value) => setAdjust(value)} />
          }
          label="Change the level at delivery where that meets the loudness"
        />
        {problem && <Alert severity="error">{problem}</Alert>}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          {started ? 'Close' : 'Cancel'}
        </Button>
        <Button variant="contained" disabled={started || chosen.length === 0} onClick={() => void start()}>
          {started ? 'Started' : `Deliver ${count(chosen.length, 'file')}`}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
