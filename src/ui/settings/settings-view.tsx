'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import LinearProgress from '@mui/material/LinearProgress';
import Paper from '@mui/material/Paper';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import { useColorScheme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { type ReactNode } from 'react';
import { sentenceOf } from '../../core/sentence-of';
import { accountDetailSchema } from '../../contracts/account';
import { api } from '../api';
import { FIGURE_FACE } from '../theme/theme';
import { Page } from '../kit/page';
import { DeleteForm, PasswordForm, Sessions, YouForm } from './account-forms';
import { Deleted } from './deleted';
import { DeliveriesForm } from './deliveries-form';
import { DraftsForm } from './drafts-form';

/** Daylight, night, or as the system has it. */
function ThemeChoice() {
  const { mode, setMode } = useColorScheme();
  return (
    <RadioGroup aria-label="Theme" value={mode ?? 'light'} onChange={(_, value) => setMode(value as 'light')}>
      <FormControlLabel value="light" control={<Radio size="small" />} label="Daylight" />
      <FormControlLabel value="dark" control={<Radio size="small" />} label="Night, for dark rooms" />
      <FormControlLabel value="system" control={<Radio size="small" />} label="As this computer has it" />
    </RadioGroup>
  );
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Paper component="section" aria-label={title} variant="outlined" sx={{ p: 2.5, display: 'grid', gap: 1.5 }}>
      <Typography variant="h2">{title}</Typography>
      {children}
    </Paper>
  );
}

/** Theme, what releases and deliveries begin with, one's account, and what was deleted lately. */
export function SettingsView() {
  const { data, error, refetch } = useQuery({
    queryKey: ['account'],
    queryFn: () => api(accountDetailSchema, '/api/account'),
  });
  const changed = () => void refetch();
  const gigabytes = (bytes: number) => (bytes / 1e9).toFixed(bytes < 1e10 ? 2 : 0);
  return (
    <Page crumbs={[{ title: 'Releases', href: '/' }, { title: 'Settings' }]}>
      <Typography variant="h1" sx={{ mb: 0.5 }}>
        Settings
      </Typography>
      {error && <Alert severity="error">{sentenceOf(error)}</Alert>}
      {!data && !error && <LinearProgress aria-label="Loading the settings" />}
      {data && (
        <>
          <Typography color="textSecondary" sx={{ mb: 3 }}>
            {data.name}, {data.email}. Files take up {gigabytes(data.usedBytes)} of {gigabytes(data.quotaBytes)} GB.
          </Typography>
          <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' }, gap: 2, alignItems: 'start' }}>
            <Box sx={{ display: 'grid', gap: 2 }}>
              <Section title="Deliveries">
                <DeliveriesForm settings={data.settings} onChanged={changed} />
              </Section>
              <Section title="Receipts">
                <Typography>
                  Receipts of this server are signed, so that a changed one is told apart. Whoever gets one checks it
                  with
                  <code> npm run verify -- RECEIPT FILE --key KEY</code> and this key:
                </Typography>
                <Typography sx={{ fontFamily: FIGURE_FACE, fontSize: 12, overflowWrap: 'anywhere' }}>
                  {data.receiptKey}
                </Typography>
              </Section>
              <Section title="First drafts">
                <DraftsForm />
              </Section>
              <Section title="Recently deleted">
                <Deleted />
              </Section>
            </Box>
            <Box sx={{ display: 'grid', gap: 2 }}>
              <Section title="Theme">
                <ThemeChoice />
              </Section>
              {data.demo ? (
                <Section title="You">
                  <Typography>
                    The demo account keeps its published name and password. Whoever runs the server can remove the demo:
                    <code> npm run demo -- remove</code>
                  </Typography>
                </Section>
              ) : (
                <>
                  <Section title="You">
                    <YouForm name={data.name} email={data.email} onChanged={changed} />
                  </Section>
                  <Section title="Password">
                    <PasswordForm onChanged={changed} />
                  </Section>
                </>
              )}
              <Section title="Where you are signed in">
                <Sessions sessions={data.sessions} onChanged={changed} />
              </Section>
              {!data.demo && (
                <Section title="Delete account">
                  <DeleteForm />
                </Section>
              )}
            </Box>
          </Box>
        </>
      )}
    </Page>
  );
}
