'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import type { LevelRelease, ReleaseDetail } from '../../contracts/release';
import { truePeakExcessDb } from '../../core/deliver/true-peak-limit';
import { albumLoudness } from '../../core/sequence/album-loudness';
import { proposeTrims, type Levelling } from '../../core/sequence/level-release';
import { ChoiceField } from '../kit/choice-field';
import { change, figure } from '../kit/format';
import { FIGURE_FACE } from '../theme/theme';
import type { LaidOutTrack } from './sequence';

const WAYS = [
  { value: 'anchor', title: 'Every track as loud as one of them' },
  { value: 'loudest', title: 'All by the same: the loudest track at' },
  { value: 'album', title: 'All by the same: the album at' },
] as const;
type Way = (typeof WAYS)[number]['value'];

const HELP: Record<Way, string> = {
  anchor:
    'For tracks that should follow each other at one level. A ballad then is as loud as the single: mind whether it should be.',
  loudest:
    'The distances between the tracks stay. AES TD1008 asks streaming services for −14 LUFS for the loudest track of an album.',
  album: 'The distances between the tracks stay. The album is measured as one programme.',
};
const LUFS = /^[−-]?\d{1,2}([.,]\d)?$/;

/** Brings the tracks of a release to a level, by trims at the end of their lanes. */
export function LevelDialog({
  release,
  laidOut,
  onLevel,
  onClose,
}: {
  release: ReleaseDetail;
  laidOut: LaidOutTrack[];
  /** Rejects with a sentence. */
  onLevel: (trims: LevelRelease['trims']) => Promise<void>;
  onClose: () => void;
}) {
  const [way, setWay] = useState<Way>('loudest');
  const [anchor, setAnchor] = useState(laidOut[0].track.id);
  const [typed, setTyped] = useState('−14.0');
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const tracks = laidOut.flatMap(({ track: { id, title, position, master } }) =>
    master?.summary
      ? [
          {
            ...{ id, title, position, blocks: master.summary.blocks, versionId: master.versionId, after: master.step },
            integratedLufs: master.summary.integratedLufs ?? -Infinity,
            truePeakDbtp: master.summary.truePeakDbtp ?? -Infinity,
          },
        ]
      : [],
  );
  const valid = LUFS.test(typed);
  const lufs = Number(typed.replace('−', '-').replace(',', '.'));
  const levelling: Levelling = way === 'anchor' ? { by: 'anchor', trackId: anchor } : { by: way, lufs };
  const album = albumLoudness(tracks.map(({ blocks }) => blocks));
  const trims = valid || way === 'anchor' ? proposeTrims(tracks, album, levelling) : new Map<string, number>();
  const moved = tracks.filter(({ id }) => (trims.get(id) ?? 0) !== 0);
  const strictest = release.destinations.reduce<{ name: string; maxDbtp: number } | null>(
    (lowest, { settings: { name, truePeak } }) =>
      lowest && lowest.maxDbtp <= truePeak.maxDbtp ? lowest : { name, maxDbtp: truePeak.maxDbtp },
    null,
  );
  const over = strictest
    ? moved.filter(({ id, truePeakDbtp }) => truePeakExcessDb(truePeakDbtp + trims.get(id)!, strictest.maxDbtp) > 0)
    : [];
  const apply = async () => {
    setBusy(true);
    try {
      await onLevel(moved.map(({ id, versionId, after }) => ({ versionId, after, trimDb: trims.get(id)! })));
      onClose();
    } catch (error) {
      setProblem(sentenceOf(error));
      setBusy(false);
    }
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Level the release</DialogTitle>
      <DialogContent>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, pt: 1 }}>
          <ChoiceField<Way> label="How" value={way} options={WAYS} width={330} onChange={setWay} />
          {way === 'anchor' ? (
            <ChoiceField
              label="As loud as"
              value={anchor}
              options={tracks.map(({ id, title }) => ({ value: id, title }))}
              onChange={setAnchor}
            />
          ) : (
            <TextField
              size="small"
              label="LUFS"
              value={typed}
              error={!valid}
              helperText={valid ? undefined : 'Type a loudness such as −14'}
              onChange={({ target }) => setTyped(target.value)}
              sx={{ width: 120 }}
            />
          )}
        </Box>
        <Typography color="textSecondary" sx={{ mt: 1 }}>
          {HELP[way]}
        </Typography>
        <Box
          component="table"
          aria-label="What it comes to"
          sx={{ mt: 2, width: '100%', '& th, & td': { textAlign: 'right', py: 0.25, pl: 1.5, fontWeight: 400 } }}
        >
          <thead>
            <tr>
              {['Track', 'Now', 'Trim', 'Then', 'True peak'].map((title, i) => (
                <Box
                  component="th"
                  key={title}
                  scope="col"
                  sx={i === 0 ? { textAlign: 'left !important', pl: '0 !important' } : {}}
                >
                  {title}
                </Box>
              ))}
            </tr>
          </thead>
          <tbody>
            {tracks.map(({ id, title, position, integratedLufs, truePeakDbtp }) => {
              const trim = trims.get(id) ?? 0;
              return (
                <Box component="tr" key={id} sx={{ '& td': { fontFamily: FIGURE_FACE, fontSize: 13 } }}>
                  <Box component="th" scope="row" sx={{ textAlign: 'left !important', pl: '0 !important' }}>
                    {position} · {title}
                  </Box>
                  <td>{figure(integratedLufs)} LUFS</td>
                  <td>{trim === 0 ? '0.0' : change(trim)} dB</td>
                  <td>{figure(integratedLufs + trim)} LUFS</td>
                  <td>{figure(truePeakDbtp + trim)} dBTP</td>
                </Box>
              );
            })}
          </tbody>
        </Box>
        {over.length > 0 && strictest && (
          <Alert severity="warning" sx={{ mt: 1.5 }}>
            {over.map(({ title }) => `“${title}”`).join(', ')} would be over the true-peak limit of {strictest.name},{' '}
            {figure(strictest.maxDbtp)} dBTP. A trim after the limiter can only make a track quieter: open the track and
            use Meet there, which drives the limiter instead.
          </Alert>
        )}
        {problem && (
          <Alert severity="error" sx={{ mt: 1.5 }}>
            {problem}
          </Alert>
        )}
      </DialogContent>
      <DialogActions>
        <Box sx={{ flex: 1, pl: 2, color: 'text.secondary', fontSize: 13 }}>
          A trim at the end of each lane; one undo takes all of them back.
        </Box>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button variant="contained" disabled={busy || moved.length === 0} onClick={() => void apply()}>
          {moved.length === 0 ? 'Nothing to level' : 'Level the release'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
