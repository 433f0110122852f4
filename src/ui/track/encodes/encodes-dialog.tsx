'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import type { EncodeCheck, EncodeResult, ProgrammeFiguresTold } from '../../../contracts/encode-check';
import {
  CODECS,
  distinctEncodes,
  ENCODE_RATES,
  encodeName,
  sameEncode,
  type Codec,
  type Encode,
} from '../../../core/deliver/encode';
import { newStage } from '../../../core/lane/schema';
import { trimSettings } from '../../../core/stages/trim/settings';
import { truePeakExcessDb } from '../../../core/deliver/true-peak-limit';
import { louder } from '../../../core/measure/intake-report';
import { reading, readingWords } from '../../../core/measure/reading';
import { ChoiceField } from '../../kit/choice-field';
import { clock, figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { useEditor, useEncodes, useLane, useTrack } from '../context';

const OVERS_SHOWN = 6;

/** Master and encode side by side. */
function Figures({ result: { source, encode } }: { result: EncodeResult }) {
  const rows: readonly [string, (of: ProgrammeFiguresTold) => string][] = [
    ['Loudness', (of) => readingWords(reading('loudness', of.integratedLufs))],
    ['Sample peak', (of) => readingWords(reading('samplePeak', louder(of.samplePeaksDbfs)))],
    ['True peak', (of) => readingWords(reading('truePeak', louder(of.truePeaksDbtp)))],
    ['Over full scale', (of) => (of.overs === 0 ? 'none' : `${of.overs} frames`)],
  ];
  return (
    <Box
      component="table"
      sx={{ borderCollapse: 'collapse', '& th, & td': { textAlign: 'left', pr: 3, py: 0.25, fontWeight: 400 } }}
    >
      <Box component="thead" sx={{ color: 'text.secondary' }}>
        <tr>
          <td />
          <th scope="col">Master</th>
          <th scope="col">Encode</th>
        </tr>
      </Box>
      <tbody>
        {rows.map(([name, words]) => (
          <tr key={name}>
            <Box component="th" scope="row" sx={{ color: 'text.secondary' }}>
              {name}
            </Box>
            {[source, encode].map((of, i) => (
              <Box key={i} component="td" sx={{ fontFamily: FIGURE_FACE }}>
                {words(of)}
              </Box>
            ))}
          </tr>
        ))}
      </tbody>
    </Box>
  );
}

/** What keeps an encode within its limit, and the press that does it. */
function Clearing({ result, limitDbtp, onDone }: { result: EncodeResult; limitDbtp: number; onDone: () => void }) {
  const editor = useEditor();
  const { clearing, encode, tries } = result;
  const stages = useLane((state) => state.version.lane.stages);
  if (truePeakExcessDb(louder(encode.truePeaksDbtp) ?? -Infinity, limitDbtp) === 0)
    return <Box>It stays within {figure(limitDbtp)} dBTP.</Box>;
  if (result.limitDbtp !== limitDbtp)
    return <Box>It is over {figure(limitDbtp)} dBTP. Check it again to find what keeps it within that.</Box>;
  if (!clearing)
    return (
      <Box>
        {tries === 0
          ? 'The ceiling can’t be set any lower'
          : `No ceiling that is low enough was found in ${tries} ${tries === 1 ? 'try' : 'tries'}`}
        : lower the level, or choose a higher rate.
      </Box>
    );
  const found = `checked: ${figure(clearing.truePeakDbtp)} dBTP`;
  if (clearing.stage === null)
    return (
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, flexWrap: 'wrap' }}>
        {figure(-clearing.value)} dB less level keeps it within {figure(limitDbtp)} dBTP ({found}). A limiter at the end
        of the lane would hold the peaks alone.
        <Button
          variant="outlined"
          onClick={() => {
            const trim = {
              ...newStage('trim', crypto.randomUUID()),
              settings: trimSettings.parse({ gainDb: clearing.value }),
            };
            if (editor.lane.insert(`Lower by ${figure(-clearing.value)} dB`, stages.length, trim)) onDone();
          }}
        >
          Lower the lane by {figure(-clearing.value)} dB
        </Button>
      </Box>
    );
  const { stage, value } = clearing;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, flexWrap: 'wrap' }}>
      With a ceiling of {figure(value)} dBTP it stays within {figure(limitDbtp)} dBTP ({found}).
      {stages.some(({ id }) => id === stage) && (
        <Button
          variant="outlined"
          onClick={() => {
            editor.lane.setSetting(stage, `Ceiling ${figure(value)} dBTP`, 'ceilingDbtp', value);
            onDone();
          }}
        >
          Set the ceiling to {figure(value)} dBTP
        </Button>
      )}
    </Box>
  );
}

/** The first places at which an encode is over full scale; a press goes there. */
function Overs({ result: { encode, sampleRate } }: { result: EncodeResult }) {
  const { transport } = useEditor();
  const seconds = encode.overSeconds;
  if (seconds.length === 0) return null;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', flexWrap: 'wrap', gap: 0.5 }}>
      Over at
      {seconds.slice(0, OVERS_SHOWN).map((at) => (
        <Button key={at} color="inherit" onClick={() => transport.seek(Math.round(Math.max(0, at - 1) * sampleRate))}>
          {clock(at, 1)}
        </Button>
      ))}
      {seconds.length > OVERS_SHOWN && `and ${seconds.length - OVERS_SHOWN} more places`}
    </Box>
  );
}

function Check({ check, limitDbtp, onDone }: { check: EncodeCheck; limitDbtp: number; onDone: () => void }) {
  const editor = useEditor();
  const { id, status, progress, problem, result } = check;
  return (
    <Box component="section" aria-label={encodeName(check)} sx={{ borderTop: 1, borderColor: 'divider', py: 1.5 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between' }}>
        <Typography variant="h3">{encodeName(check)}</Typography>
        {result && (
          <Box>
            <Button
              color="inherit"
              title="The encode less the master, at the same place and level: what the encoder leaves out and adds"
              onClick={() => {
                if (editor.audition.hearEncodeAlone(id)) onDone();
              }}
            >
              Hear the change alone
            </Button>
            <Button
              color="inherit"
              onClick={() => {
                if (editor.candidates.add({ kind: 'encode', encodeId: id })) onDone();
              }}
            >
              Listen to it
            </Button>
          </Box>
        )}
      </Box>
      {status === 'failed' && <Alert severity="error">{problem}</Alert>}
      {(status === 'waiting' || status === 'encoding') && (
        <LinearProgress variant="determinate" value={100 * progress} aria-label={`Checking ${encodeName(check)}`} />
      )}
      {result && (
        <Box sx={{ display: 'grid', gap: 0.5 }}>
          <Figures result={result} />
          <Overs result={result} />
          <Clearing {...{ result, limitDbtp, onDone }} />
        </Box>
      )}
    </Box>
  );
}

const CODEC_OPTIONS = CODECS.map((value) => ({ value, title: value }));
const RATE_OPTIONS = ENCODE_RATES.map((value) => ({ value, title: `${value} kb/s` }));

/** What listeners get: the whole master in lossy encodes, measured and to be heard. */
export function EncodesDialog({ onClose }: { onClose: () => void }) {
  const editor = useEditor();
  const { checks, problem } = useEncodes((state) => state);
  const saving = useLane((state) => state.saving);
  const destinations = useTrack((state) => state.details.destinations);
  const [codec, setCodec] = useState<Codec>('AAC');
  const [kbps, setKbps] = useState<Encode['kbps']>(256);
  useEffect(() => void editor.encodes.refresh(), [editor]);
  /** What the destinations of the release allow an encode, else that it does not clip. */
  const limitOf = (encode: Encode) =>
    Math.min(
      0,
      ...destinations.flatMap(({ settings }) =>
        settings.encodes.filter((each) => sameEncode(each, encode)).map(({ maxDbtp }) => maxDbtp),
      ),
    );
  const start = (encode: Encode) => void editor.encodes.start({ ...encode, limitDbtp: limitOf(encode) });
  const asked = distinctEncodes(destinations.flatMap(({ settings }) => settings.encodes)).filter(
    (each) => !checks.some((check) => sameEncode(check, each)),
  );
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Encodes</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary" sx={{ mb: 1.5 }}>
          Listeners get a lossy encode, and peaks grow in it. The server encodes the whole saved master and measures
          both; where it goes over the limit, it encodes again with lower ceilings until it does not.
        </Typography>
        <Box sx={{ display: 'flex', alignItems: 'center', flexWrap: 'wrap', gap: 1.5, mb: 1.5, pt: 0.5 }}>
          <ChoiceField label="Codec" value={codec} options={CODEC_OPTIONS} onChange={setCodec} width={130} />
          <ChoiceField label="Rate" value={kbps} options={RATE_OPTIONS} onChange={setKbps} width={130} />
          <Button variant="contained" disabled={saving !== 'saved'} onClick={() => start({ codec, kbps })}>
            Check the master
          </Button>
          {asked.map(({ codec: each, kbps: rate }) => (
            <Button
              key={`${each} ${rate}`}
              variant="outlined"
              disabled={saving !== 'saved'}
              onClick={() => start({ codec: each, kbps: rate })}
            >
              Check {encodeName({ codec: each, kbps: rate })}, as asked
            </Button>
          ))}
        </Box>
        {problem && <Alert severity="error">{problem}</Alert>}
        {checks.map((check) => (
          <Check key={check.id} {...{ check, onDone: onClose }} limitDbtp={limitOf(check)} />
        ))}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
