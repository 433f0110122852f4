'use client';

import CheckIcon from '@mui/icons-material/Check';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { compareFindings } from '../../core/measure/compare-findings';
import type { IntakeReport } from '../../core/measure/intake-report';
import { reading, readingText, readingUnit, type Reading } from '../../core/measure/reading';
import type { MixSummary, TrackSummary } from '../../contracts/release';
import { FIGURE_FACE } from '../theme/theme';
import { linedUpWords } from './lined-up-words';

const ROWS: [name: string, of: (report: IntakeReport) => Reading][] = [
  ['Integrated', ({ integratedLufs }) => reading('loudness', integratedLufs)],
  ['True peak', ({ headroomDb }) => reading('truePeak', headroomDb === null ? null : -headroomDb)],
  ['Loudness range', ({ rangeLu }) => reading('loudnessDifference', rangeLu)],
  ['PLR', ({ plrLu }) => reading('loudnessDifference', plrLu)],
  ['Clipped runs', ({ clippedRuns }) => reading('count', clippedRuns)],
  ['Overs', ({ overs }) => reading('frames', overs)],
  ['Correlation below 120 Hz', ({ bassCorrelation }) => reading('correlation', bassCorrelation)],
];

/** What became of the findings and figures of an older mix. */
function Compared({ older, newer }: { older: MixSummary; newer: MixSummary }) {
  const [a, b] = [older.report, newer.report];
  if (!a || !b) return null;
  const { gone, still, added } = compareFindings(a.findings, b.findings);
  const changed = ROWS.map(([name, of]) => ({
    name,
    unit: readingUnit(of(a)),
    before: readingText(of(a)),
    after: readingText(of(b)),
  })).filter(({ before, after }) => before !== after);
  const line = (mark: string, title: string, words: string) => (
    <Box component="li" key={mark + title}>
      <Box component="span" sx={{ fontWeight: 650 }}>
        {mark} {title}.
      </Box>{' '}
      {words}
    </Box>
  );
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 340px', gap: 4 }}>
      <Box>
        <Typography variant="h3" sx={{ mb: 0.5 }}>
          Since mix {older.number}
        </Typography>
        <Box component="ul" aria-label={`Since mix ${older.number}`} sx={{ m: 0, p: 0, listStyle: 'none' }}>
          {gone.map(({ title, sentence }) => line('Gone:', title, `Before: ${sentence}`))}
          {still.map(({ now, before }) =>
            line(
              'Still there:',
              now.title,
              now.sentence === before ? now.sentence : `${now.sentence} Before: ${before}`,
            ),
          )}
          {added.map(({ title, sentence }) => line('New:', title, sentence))}
          {gone.length + still.length + added.length === 0 && <li>Nothing found in either.</li>}
        </Box>
      </Box>
      {changed.length > 0 && (
        <Box
          component="table"
          aria-label={`Figures of mix ${older.number} and mix ${newer.number}`}
          sx={{
            ...{ fontSize: 12.5, borderSpacing: 0, alignSelf: 'start' },
            '& th': { fontWeight: 400, color: 'text.secondary', textAlign: 'right', p: 0, lineHeight: 1.5 },
            '& th:first-of-type': { textAlign: 'left' },
            '& td': { fontFamily: FIGURE_FACE, textAlign: 'right', p: 0 },
          }}
        >
          <thead>
            <tr>
              <th />
              <th scope="col">mix {older.number}</th>
              <th scope="col">mix {newer.number}</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {changed.map(({ name, unit, before, after }) => (
              <tr key={name}>
                <th scope="row">{name}</th>
                <td>{before}</td>
                <td>{after}</td>
                <th>{unit}</th>
              </tr>
            ))}
          </tbody>
        </Box>
      )}
    </Box>
  );
}

/** The mixes of a track, which of them is used, and what changed from one to the next. */
export function MixList({
  track: { mix, mixes },
  onChoose,
  onRemove,
}: {
  track: TrackSummary;
  onChoose: (mix: MixSummary) => void;
  onRemove: (mix: MixSummary) => void;
}) {
  const ready = mixes.filter(({ status }) => status === 'ready');
  if (ready.length < 2 || mix?.status !== 'ready') return null;
  const older = ready.find(({ number }) => number === mix.linedUp?.toMix);
  return (
    <Box sx={{ display: 'grid', gap: 1, borderTop: 1, borderColor: 'divider', pt: 1.5 }}>
      <Box role="group" aria-label="Mixes" sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        {ready.map((each) => (
          <Button
            key={each.id}
            variant="outlined"
            aria-pressed={each.id === mix.id}
            startIcon={each.id === mix.id ? <CheckIcon /> : undefined}
            onClick={() => each.id !== mix.id && onChoose(each)}
          >
            {each.id === mix.id ? `Mix ${each.number}, in use` : `Use mix ${each.number}`}
          </Button>
        ))}
        <Typography color="textSecondary" noWrap sx={{ flex: 1 }}>
          {mix.fileName}
        </Typography>
        <Button color="inherit" onClick={() => onRemove(mix)}>
          Remove mix {mix.number}
        </Button>
      </Box>
      {mix.linedUp && <Typography color="textSecondary">{linedUpWords(mix.linedUp)}</Typography>}
      {older && <Compared older={older} newer={mix} />}
    </Box>
  );
}
