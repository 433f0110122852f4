'use client';

import { sentenceOf } from '../../../core/sentence-of';
import { startedDeliverySchema } from '../../../contracts/delivery';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Destination } from '../../../core/deliver/destination';
import { describeDestination } from '../../../core/deliver/describe';
import { lastLimiter } from '../../../core/deliver/driven';
import type { Quantity } from '../../../core/stages/setting';
import { QuantityControl } from '../../kit/quantity-control';
import { FORMAT_TRAITS } from '../../../core/deliver/format';
import { judgeAtDelivery } from '../../../core/deliver/verdict';
import { api } from '../../api';
import { changedWords, StandingMark, verdictWords } from '../../kit/standing';
import { figure } from '../../kit/format';
import { DitherChoice, type Dithering } from './dither-choice';
import { useEditor, useLane, useMeasurements, useTrack } from '../context';
import { useAdjustments } from '../use-adjustment';
import { useMasterFacts } from '../use-master-facts';

/** How much more the last limiter is driven for one destination. */
const DRIVE: Quantity = {
  ...{ title: 'Drive for this destination', unit: 'dB', min: -12, max: 12, step: 0.1, default: 0, scale: 'linear' },
  help: 'More or less input gain of the last limiter, for this destination only. Louder files lose dynamics.',
};

/** Choose a destination and start its delivery. */
export function DeliverDialog({ onClose }: { onClose: () => void }) {
  const editor = useEditor();
  const router = useRouter();
  const { destinations, track, mix } = useTrack((state) => state.details);
  const version = useLane((state) => state.version);
  const measurement = useMeasurements((state) => state.measurement);
  const [chosen, setChosen] = useState(destinations[0]?.id ?? '');
  const [adjust, setAdjust] = useState(true);
  const [problem, setProblem] = useState<string | null>(null);
  const [starting, setStarting] = useState(false);
  const destination = destinations.find(({ id }) => id === chosen);
  const [dithering, setDithering] = useState<Dithering | null>(null);
  const used = dithering ?? destination?.settings.wordLength ?? null;
  const facts = useMasterFacts(measurement?.master);
  const judged = (settings: Destination) => facts && judgeAtDelivery(settings, facts, adjust);
  const offeredDb = destination && facts ? judgeAtDelivery(destination.settings, facts, true).levelDb : 0;
  const kept = useAdjustments()(chosen);
  const limiter = lastLimiter(version.lane);
  const [drive, setDrive] = useState<number | null>(null);
  const driveDb = limiter ? (drive ?? kept.driveDb) : 0;
  const verdict = destination ? judged(destination.settings)?.verdict : null;
  const misses = verdict?.standing === 'misses';

  // Each destination has a dither of its own.
  const choose = (value: string) => {
    setChosen(value);
    setDithering(null);
    setDrive(null);
  };
  const start = async () => {
    setStarting(true);
    setProblem(null);
    try {
      await editor.lane.requireSaved();
      const body = {
        destinationId: chosen,
        versionId: version.id,
        levelDb: adjust ? offeredDb : 0,
        driveDb,
        ...dithering,
      };
      const { id } = await api(startedDeliverySchema, `/api/tracks/${track.id}/deliveries`, { method: 'POST', body });
      router.push(`/deliveries/${id}`);
    } catch (error) {
      setProblem(sentenceOf(error));
      setStarting(false);
    }
  };

  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Deliver “{track.title}”</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary" sx={{ mb: 1.5 }}>
          The server renders version “{version.name}”, measures the finished file and writes its receipt.
        </Typography>
        <RadioGroup value={chosen} onChange={(_, value) => choose(value)} aria-label="Destination">
          {destinations.map(({ id, settings }) => {
            const each = judged(settings);
            return (
              <FormControlLabel
                key={id}
                value={id}
                control={<Radio size="small" />}
                disableTypography
                label={
                  <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 1.5, alignItems: 'baseline', py: 0.75 }}>
                    <b>{settings.name}</b>
                    <Box component="span" sx={{ color: 'text.secondary' }}>
                      {describeDestination(settings)}
                    </Box>
                    <StandingMark
                      standing={each?.verdict.standing ?? 'unknown'}
                      words={each ? verdictWords(each.verdict) + changedWords(each.levelDb) : undefined}
                    />
                  </Box>
                }
              />
            );
          })}
        </RadioGroup>
        {offeredDb !== 0 && (
          <FormControlLabel
            control={<Checkbox size="small" checked={adjust} onChange={(_, value) => setAdjust(value)} />}
            label={`${offeredDb < 0 ? 'Lower' : 'Raise'} by ${figure(Math.abs(offeredDb))} dB at delivery, to meet the loudness`}
          />
        )}
        {limiter && <QuantityControl quantity={DRIVE} value={driveDb} onChange={setDrive} />}
        {driveDb !== 0 && (
          <Typography color="textSecondary" sx={{ mt: 0.5 }}>
            Another drive makes another master: the level offered and the verdict are those without it, and the finished
            file is measured.
          </Typography>
        )}
        {misses && (
          <Alert severity="warning" sx={{ mt: 1 }}>
            As it is, this delivery will miss: {verdictWords(verdict)}. {verdict.remedies.join(' ')}
          </Alert>
        )}
        {destination && used && FORMAT_TRAITS[destination.settings.format.name].lossless && (
          <DitherChoice dithering={used} destination={destination.settings} onChange={setDithering} />
        )}
        {problem && (
          <Alert severity="error" sx={{ mt: 1 }}>
            {problem}
          </Alert>
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button
          variant={misses ? 'outlined' : 'contained'}
          disabled={starting || !chosen || mix?.status !== 'ready'}
          onClick={() => void start()}
        >
          {misses ? 'Deliver although it misses' : 'Start delivery'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
