'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { sentenceOf } from '../../core/sentence-of';
import { draftHabitsSchema } from '../../contracts/draft';
import { habitsOf, LEAST_OFFERED } from '../../core/draft/first-draft/habits';
import { DRAFT_STEP_IDS, DRAFT_STEPS, SCALED_STEPS } from '../../core/draft/first-draft/request';
import { api, send } from '../api';
import { count } from '../kit/format';
import { SwitchRow } from '../kit/switch-row';
import { FIGURE_FACE } from '../theme/theme';

export const HABITS_KEY = ['drafts'];

/** What was done to first drafts, whether the next ones lean that way, and the way to forget it. */
export function DraftsForm() {
  const client = useQueryClient();
  const { data, error } = useQuery({ queryKey: HABITS_KEY, queryFn: () => api(draftHabitsSchema, '/api/drafts') });
  const change = useMutation({
    mutationFn: (asked: { method: 'PUT'; body: { leans: boolean } } | { method: 'DELETE' }) =>
      send('/api/drafts', asked),
    onSettled: () => client.invalidateQueries({ queryKey: HABITS_KEY }),
  });
  const problem = error ?? change.error;
  const habits = habitsOf(data?.drafts ?? []);
  const known = DRAFT_STEP_IDS.filter((id) => habits[id]);
  return (
    <>
      {problem && <Alert severity="error">{sentenceOf(problem)}</Alert>}
      {data && (
        <>
          <Box>
            {data.drafts.length === 0
              ? 'Nothing is remembered yet. Each draft that you take is counted here: which steps were refused, and how strongly the others were taken.'
              : `From the last ${count(data.drafts.length, 'draft')} that you took.`}
          </Box>
          {known.length > 0 && (
            <Table size="small" aria-label="What you do to drafts" sx={{ '& td': { fontFamily: FIGURE_FACE } }}>
              <TableHead>
                <TableRow>
                  <TableCell>Step</TableCell>
                  <TableCell>in drafts</TableCell>
                  <TableCell>refused</TableCell>
                  <TableCell>usual strength</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {known.map((id) => {
                  const { offered, refused, strengthPercent } = habits[id]!;
                  return (
                    <TableRow key={id}>
                      <TableCell component="th" scope="row">
                        {DRAFT_STEPS[id]}
                      </TableCell>
                      <TableCell>{offered}</TableCell>
                      <TableCell>{refused}</TableCell>
                      <TableCell>
                        {SCALED_STEPS.has(id) && strengthPercent !== null ? `${strengthPercent} %` : '–'}
                      </TableCell>
                    </TableRow>
                  );
                })}
              </TableBody>
            </Table>
          )}
          <SwitchRow
            title="New drafts lean that way"
            help={`Steps that you mostly refuse start refused, the others at your usual strength, once a step was in ${LEAST_OFFERED} drafts. Nothing else changes, and the draft shows it.`}
            on={data.leans}
            onChange={(leans) => change.mutate({ method: 'PUT', body: { leans } })}
          />
          <Button
            color="inherit"
            variant="outlined"
            disabled={data.drafts.length === 0}
            onClick={() => change.mutate({ method: 'DELETE' })}
            sx={{ justifySelf: 'start' }}
          >
            Forget what I did
          </Button>
        </>
      )}
    </>
  );
}
