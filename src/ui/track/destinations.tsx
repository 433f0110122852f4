'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Drawer from '@mui/material/Drawer';
import LinearProgress from '@mui/material/LinearProgress';
import Paper from '@mui/material/Paper';
import Typography from '@mui/material/Typography';
import Link from 'next/link';
import { useState } from 'react';
import type { Destination } from '../../core/deliver/destination';
import { describeDestination } from '../../core/deliver/describe';
import { encodeName, sameEncode } from '../../core/deliver/encode';
import { truePeakExcessDb } from '../../core/deliver/true-peak-limit';
import type { Verdict } from '../../core/deliver/verdict';
import { louder } from '../../core/measure/intake-report';
import { reading } from '../../core/measure/reading';
import { adjustedVerdict, isOutdated, type Adjustment } from '../../contracts/adjustment';
import { DeliveryState } from '../kit/delivery-state';
import { change, dateAndTime, figure } from '../kit/format';
import { HIDDEN } from '../kit/hidden';
import { ReadingRow } from '../kit/reading-row';
import { StandingMark, verdictWords } from '../kit/standing';
import { FIGURE_FACE } from '../theme/theme';
import { useEditor, useEncodes, useLane, useMeasurements, useTrack } from './context';
import { EncodesDialog } from './encodes/encodes-dialog';
import { MeetDialog } from './meet/meet-dialog';
import { Observations } from './observations/observations';
import { STALE, useStale } from './stale';
import { useAdjustments } from './use-adjustment';
import { useMasterFacts } from './use-master-facts';

/** Requirements whose figures tell by their units what they are. */
const TOLD_BY_UNIT = new Set(['Loudness', 'True peak', 'Sample rate', 'Word length']);

/** What misses or is not known stands by itself; what is met runs on in a line; advice is told when it is needed. */
function Requirements({ verdict: { requirements }, stale }: { verdict: Verdict; stale: boolean }) {
  const open = requirements.filter(({ standing, advice }) => standing !== 'meets' && !advice);
  const met = requirements.filter(({ standing, advice }) => standing === 'meets' && !advice);
  const advice = requirements.filter((each) => each.advice && each.standing === 'misses');
  return (
    <>
      <Box component="dl" sx={{ m: 0, fontSize: 12.5 }}>
        {open.map(({ title, measured, standing }) => (
          <ReadingRow
            key={title}
            name={title}
            of={measured}
            color={stale ? 'text.secondary' : standing === 'misses' ? 'error.main' : undefined}
          />
        ))}
      </Box>
      {met.length > 0 && (
        <Box component="dl" sx={{ m: 0, fontSize: 12.5, display: 'flex', flexWrap: 'wrap', columnGap: 1.5 }}>
          {met.map(({ title, measured, reason }) => (
            <Box
              key={title}
              title={[title, reason].filter(Boolean).join(': ')}
              sx={{ display: 'flex', gap: 0.75, whiteSpace: 'nowrap' }}
            >
              <Box component="dt" sx={TOLD_BY_UNIT.has(title) ? HIDDEN : { color: 'text.secondary' }}>
                {title}
              </Box>
              <Box component="dd" sx={{ m: 0, fontFamily: FIGURE_FACE }}>
                {measured}
              </Box>
            </Box>
          ))}
        </Box>
      )}
      {advice.map(({ title, measured, miss }) => (
        <Box key={title} sx={{ fontSize: 12.5, color: 'text.secondary' }}>
          {title} {measured}: {miss}
        </Box>
      ))}
    </>
  );
}

/** What an encode makes of the loudest passage, until the whole master is checked in it. */
function PassageEncode({ encode }: { encode: Destination['encodes'][number] }) {
  const whole = useEncodes(({ checks }) => checks.some((each) => each.result && sameEncode(each, encode)));
  const made = useEncodes(({ passage }) => passage?.encodes.find((each) => sameEncode(each, encode)));
  const fresh = useEncodes((state) => state.passageFresh);
  if (whole || !made) return null;
  const peak = louder(made.figures.truePeaksDbtp);
  const over = truePeakExcessDb(peak ?? -Infinity, encode.maxDbtp) > 0;
  return (
    <Box
      component="dl"
      aria-label={`${encodeName(encode)}, loudest passage`}
      title={`The loudest passage as an encode, made again after each change. The limit is ${figure(encode.maxDbtp)} dBTP; only the check of the whole master counts.`}
      sx={{ m: 0, fontSize: 12.5, ...(!fresh && STALE) }}
    >
      <ReadingRow
        name={`${encodeName(encode)}, loudest passage`}
        of={reading('truePeak', peak)}
        color={over ? 'error.main' : undefined}
      />
    </Box>
  );
}

/** What of the version differs for a destination, and the press that takes it away. */
function AdjustmentLine({
  id,
  name,
  adjustment,
  outdated,
}: {
  id: string;
  name: string;
  adjustment: Adjustment;
  /** It was set for another lane. */
  outdated: boolean;
}) {
  const editor = useEditor();
  const versionId = useLane((state) => state.version.id);
  const { levelDb, driveDb } = adjustment;
  if (levelDb === 0 && driveDb === 0) return null;
  const parts = [
    levelDb === 0 ? [] : `Level ${change(levelDb)} dB`,
    driveDb === 0 ? [] : `${levelDb === 0 ? 'Drive' : 'drive'} ${change(driveDb)} dB`,
  ].flat();
  return (
    <Box
      title="For this destination only; set where it is delivered, and part of this version. The verdict is that of the level; what another drive comes to is measured when it is delivered."
      sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', gap: 1, fontSize: 12.5 }}
    >
      <span>
        {parts.join(', ')}
        {outdated && <Box sx={{ color: 'warning.main' }}>set for an earlier lane</Box>}
      </span>
      <Button
        size="small"
        color="inherit"
        aria-label={`Take off what differs for ${name}`}
        onClick={() => void editor.track.adjust(versionId, id, { levelDb: 0, driveDb: 0 })}
      >
        Take off
      </Button>
    </Box>
  );
}

function DestinationCard({ id, destination }: { id: string; destination: Destination }) {
  const measurement = useMeasurements((state) => state.measurement);
  const facts = useMasterFacts(measurement?.master);
  const adjustment = useAdjustments()(id);
  const step = useLane((state) => state.version.step);
  const held = facts && adjustedVerdict(destination, facts, adjustment, step);
  const verdict = held?.verdict ?? null;
  const stale = useStale();
  const [meeting, setMeeting] = useState(false);
  return (
    <Paper
      variant="outlined"
      component="article"
      aria-label={destination.name}
      sx={{ p: 1.5, ...(stale && { ...STALE, borderStyle: 'dashed' }) }}
    >
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline', gap: 1 }}>
        <Typography variant="h3">{destination.name}</Typography>
        {stale ? (
          <StandingMark standing="unknown" words="checking" />
        ) : (
          <StandingMark standing={verdict?.standing ?? 'unknown'} words={verdict ? verdictWords(verdict) : undefined} />
        )}
      </Box>
      <Typography color="textSecondary" sx={{ fontSize: 12, mb: 0.5 }}>
        {describeDestination(destination)}
      </Typography>
      <AdjustmentLine {...{ id, adjustment }} outdated={isOutdated(adjustment, step)} name={destination.name} />
      {verdict && <Requirements verdict={verdict} stale={stale} />}
      {destination.encodes.map((encode) => (
        <PassageEncode key={encodeName(encode)} encode={encode} />
      ))}
      {verdict && !stale && verdict.remedies.length > 0 && (
        <Box
          sx={{ mt: 0.75, pt: 0.75, borderTop: '1px dashed', borderColor: 'divider', fontSize: 12.5, lineHeight: 1.4 }}
        >
          {verdict.remedies.map((remedy) => (
            <div key={remedy}>{remedy}</div>
          ))}
        </Box>
      )}
      {verdict && !stale && (
        <Button size="small" color="inherit" onClick={() => setMeeting(true)} sx={{ ml: -0.5, mt: 0.25 }}>
          Meet…
        </Button>
      )}
      {meeting && <MeetDialog {...{ destination }} onClose={() => setMeeting(false)} />}
    </Paper>
  );
}

const SHOWN_DELIVERIES = 4;

/** What the measurement of the whole track is doing. */
function MeasuringState() {
  const share = useMeasurements((state) => state.share);
  const measured = useMeasurements((state) => state.measurement !== null);
  const problem = useMeasurements((state) => state.problem);
  return (
    <span role="status" data-testid="measuring-state">
      {problem
        ? 'measurement failed'
        : share !== null
          ? `checking… ${Math.round(share * 100)} %`
          : measured
            ? 'whole track checked'
            : 'waiting for the mix'}
    </span>
  );
}

/** How many destinations the master meets, and the column of them to open. */
export function DestinationsButton() {
  const destinations = useTrack((state) => state.details.destinations);
  const measurement = useMeasurements((state) => state.measurement);
  const facts = useMasterFacts(measurement?.master);
  const share = useMeasurements((state) => state.share);
  const [open, setOpen] = useState(false);
  const adjustmentFor = useAdjustments();
  const step = useLane((state) => state.version.step);
  const met =
    facts && share === null
      ? destinations.filter(
          ({ id, settings }) => adjustedVerdict(settings, facts, adjustmentFor(id), step).verdict.standing === 'meets',
        )
      : null;
  return (
    <>
      <Button variant="outlined" aria-expanded={open} onClick={() => setOpen(true)} sx={{ flexShrink: 0 }}>
        {met
          ? `Meets ${met.length} of ${destinations.length}`
          : share === null
            ? 'Destinations'
            : `Checking… ${Math.round(share * 100)} %`}
      </Button>
      <Drawer
        anchor="right"
        open={open}
        onClose={() => setOpen(false)}
        slotProps={{ paper: { 'aria-label': 'Destinations' } }}
      >
        <Destinations />
      </Drawer>
    </>
  );
}

/** The release's destinations with their verdicts from the last measurement, what was delivered, and observations, as a column. */
export function Destinations() {
  return (
    <Box
      component="aside"
      aria-label="Destinations"
      sx={{ width: 268, flexShrink: 0, borderLeft: 1, borderColor: 'divider', p: 1.5, overflowY: 'auto' }}
    >
      <DestinationList />
      <Observations />
    </Box>
  );
}

/** The destinations and deliveries without the column around them. */
export function DestinationList() {
  const destinations = useTrack((state) => state.details.destinations);
  const deliveries = useTrack((state) => state.details.deliveries);
  const share = useMeasurements((state) => state.share);
  const problem = useMeasurements((state) => state.problem);
  const [encoding, setEncoding] = useState(false);
  const editor = useEditor();
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1 }}>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          justifyContent: 'space-between',
          color: 'text.secondary',
          fontSize: 12,
          minHeight: 18,
        }}
      >
        <Box component="h2" sx={{ m: 0, font: 'inherit' }}>
          Destinations
        </Box>
        <MeasuringState />
      </Box>
      <LinearProgress
        variant="determinate"
        value={(share ?? 1) * 100}
        aria-label="Checking the whole track"
        sx={{ height: 2, mt: -0.75, visibility: share === null ? 'hidden' : 'visible' }}
      />
      {problem && (
        <Box>
          <Typography color="error">{problem}</Typography>
          <Button size="small" onClick={() => editor.measurements.retry()}>
            Try again
          </Button>
        </Box>
      )}
      {destinations.map(({ id, settings }) => (
        <DestinationCard key={id} {...{ id }} destination={settings} />
      ))}
      <Button variant="outlined" color="inherit" onClick={() => setEncoding(true)}>
        Check encodes…
      </Button>
      {encoding && <EncodesDialog onClose={() => setEncoding(false)} />}
      {deliveries.length > 0 && (
        <Box component="section" aria-label="Deliveries of this track" sx={{ mt: 0.5 }}>
          <Box sx={{ color: 'text.secondary', fontSize: 12, mb: 0.5 }}>Deliveries of this track</Box>
          {deliveries.slice(0, SHOWN_DELIVERIES).map((delivery) => (
            <Box
              key={delivery.id}
              component={Link}
              href={`/deliveries/${delivery.id}`}
              sx={{
                display: 'flex',
                justifyContent: 'space-between',
                py: 0.5,
                borderTop: 1,
                borderColor: 'divider',
                color: 'inherit',
                textDecoration: 'none',
                '&:hover': { textDecoration: 'underline' },
              }}
            >
              <span>
                {delivery.destination.name}
                <Box component="span" sx={{ display: 'block', color: 'text.secondary', fontSize: 12 }}>
                  {dateAndTime(delivery.createdAt)}
                </Box>
              </span>
              <DeliveryState {...delivery} standing={delivery.receipt?.verdict.standing ?? null} />
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}
