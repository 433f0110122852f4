'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { sentenceOf } from '../../../core/sentence-of';
import { type HeardSource, newLinkSchema, PREFERENCE_TRIALS, type NewLink } from '../../../contracts/listening';
import type { TrackSummary } from '../../../contracts/release';
import { ChoiceField } from '../../kit/choice-field';
import { expiryOf, type Expiry, EXPIRIES } from './expiry';

interface Chosen {
  on: boolean;
  versionId: string;
  otherVersionId: string | null;
}

/** What a blind test can compare. */
const COMPARISONS: { value: string; title: string; between: [HeardSource, HeardSource] }[] = [
  { value: 'mix', title: 'Mix and master', between: ['mix', 'master'] },
  { value: 'other', title: 'Both masters', between: ['master', 'other'] },
];

/** A track of the new link: whether it is heard, and which of its versions. */
function TrackRow({
  track,
  chosen,
  onChange,
}: {
  track: TrackSummary;
  chosen: Chosen;
  onChange: (changes: Partial<Chosen>) => void;
}) {
  const { title, versions } = track;
  const options = versions.map(({ id, name }) => ({ value: id, title: name }));
  return (
    <Box component="li" sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, alignItems: 'center', py: 0.75 }}>
      <FormControlLabel
        control={<Checkbox size="small" checked={chosen.on} onChange={(_, on) => onChange({ on })} />}
        label={title}
        sx={{ flex: 1, minWidth: 160 }}
      />
      {versions.length > 1 && chosen.on && (
        <>
          <ChoiceField
            label={`Master of ${title}`}
            value={chosen.versionId}
            options={options}
            width={170}
            onChange={(versionId) => onChange({ versionId })}
          />
          <ChoiceField
            label={`Compared with`}
            value={chosen.otherVersionId ?? ''}
            options={[
              { value: '', title: 'The mix only' },
              ...options.filter(({ value }) => value !== chosen.versionId),
            ]}
            width={170}
            onChange={(id) => onChange({ otherVersionId: id === '' ? null : id })}
          />
        </>
      )}
    </Box>
  );
}

/** Makes a listening link. */
export function NewLinkForm({
  tracks,
  onCreate,
  onCancel,
}: {
  tracks: readonly TrackSummary[];
  /** Rejects with a sentence. */
  onCreate: (link: NewLink) => Promise<void>;
  onCancel: () => void;
}) {
  const [recipient, setRecipient] = useState('');
  const [passphrase, setPassphrase] = useState('');
  const [expiry, setExpiry] = useState<Expiry>('month');
  const [download, setDownload] = useState(false);
  const [lossless, setLossless] = useState(true);
  const [handles, setHandles] = useState(false);
  const [chosen, setChosen] = useState<Record<string, Chosen>>(() =>
    Object.fromEntries(
      tracks.map(({ id, master, versions }) => [
        ...([id, { on: true, versionId: master?.versionId ?? versions[0].id, otherVersionId: null }] as const),
      ]),
    ),
  );
  const [testOf, setTestOf] = useState('');
  const [comparison, setComparison] = useState('mix');
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const heard = tracks.filter(({ id }) => chosen[id].on);
  const tested = heard.some(({ id }) => id === testOf) ? testOf : '';
  const comparisons = COMPARISONS.filter(({ value }) => value === 'mix' || chosen[tested]?.otherVersionId);
  const compared = comparisons.find(({ value }) => value === comparison) ?? comparisons[0];
  const create = async () => {
    const checked = newLinkSchema.safeParse({
      ...{ recipient, download, lossless, handles, expiresAt: expiryOf(expiry) },
      passphrase: passphrase === '' ? null : passphrase,
      tracks: heard.map(({ id }) => ({
        ...{ trackId: id, versionId: chosen[id].versionId, otherVersionId: chosen[id].otherVersionId },
      })),
      preference:
        tested === '' ? null : { trackId: tested, between: compared.between, trials: PREFERENCE_TRIALS.usual },
    });
    if (!checked.success) return setProblem(checked.error.issues[0].message);
    setBusy(true);
    await onCreate(checked.data).catch((caught: Error) => setProblem(sentenceOf(caught)));
    setBusy(false);
  };
  return (
    <Box
      component="form"
      aria-label="New listening link"
      onSubmit={(event) => {
        event.preventDefault();
        void create();
      }}
      sx={{ display: 'grid', gap: 2 }}
    >
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, mt: 1.5 }}>
        <TextField
          autoFocus
          size="small"
          label="For whom"
          value={recipient}
          onChange={({ target }) => setRecipient(target.value)}
          sx={{ flex: 1, minWidth: 180 }}
        />
        <ChoiceField label="Expires" value={expiry} options={EXPIRIES} width={150} onChange={setExpiry} />
        <TextField
          size="small"
          label="Passphrase"
          placeholder="None"
          helperText="8 characters or more"
          autoComplete="off"
          value={passphrase}
          onChange={({ target }) => setPassphrase(target.value)}
          sx={{ width: 180 }}
        />
      </Box>
      <Box>
        <Typography variant="h3">What is heard</Typography>
        <Typography color="textSecondary">
          In the order of the release with its gaps, each master against its mix at equal loudness. It stays as it is
          now until you update the link.
        </Typography>
        <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0 }}>
          {tracks.map((track) => (
            <TrackRow
              key={track.id}
              track={track}
              chosen={chosen[track.id]}
              onChange={(changes) => setChosen({ ...chosen, [track.id]: { ...chosen[track.id], ...changes } })}
            />
          ))}
        </Box>
      </Box>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, alignItems: 'center' }}>
        <ChoiceField
          label="Blind test"
          value={tested}
          options={[
            { value: '', title: 'None' },
            ...heard.map(({ id, title }) => ({ value: id, title: `On ${title}` })),
          ]}
          width={230}
          onChange={setTestOf}
        />
        {tested !== '' && (
          <ChoiceField
            label="Between"
            value={compared.value}
            options={comparisons}
            width={170}
            onChange={setComparison}
          />
        )}
        <Typography color="textSecondary" sx={{ flexBasis: '100%', fontSize: 13 }}>
          {tested === ''
            ? 'A blind test asks which of two the client likes better, without telling which is which.'
            : `${PREFERENCE_TRIALS.usual} trials of the loudest 15 seconds. The result comes to your inbox.`}
        </Typography>
      </Box>
      <Box>
        <FormControlLabel
          control={<Checkbox size="small" checked={lossless} onChange={(_, on) => setLossless(on)} />}
          label="Lossless on request: a FLAC stream of the master beside Opus and AAC"
        />
        <FormControlLabel
          control={<Checkbox size="small" checked={download} onChange={(_, on) => setDownload(on)} />}
          label="Allow downloads: each master as FLAC, 48 kHz, 24-bit"
        />
        <FormControlLabel
          control={<Checkbox size="small" checked={handles} onChange={(_, on) => setHandles(on)} />}
          label="Allow handles: the client moves loudness, weight, presence and width live and proposes a change. The phone gets the whole mix, lossless, and the lane for that."
        />
      </Box>
      {problem && <Alert severity="error">{problem}</Alert>}
      <Box sx={{ display: 'flex', gap: 1, justifyContent: 'flex-end' }}>
        <Button color="inherit" onClick={onCancel}>
          Cancel
        </Button>
        <Button type="submit" variant="contained" disabled={busy}>
          Make the link
        </Button>
      </Box>
    </Box>
  );
}
