'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Paper from '@mui/material/Paper';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { useForm } from 'react-hook-form';
import {
  type AccountDetail,
  accountDetailSchema,
  type ChangePassword,
  changePasswordSchema,
  deleteAccountSchema,
} from '../../contracts/account';
import { api, send } from '../api';
import { Page } from '../kit/page';
import { browserName } from './browser-name';

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Paper component="section" aria-label={title} variant="outlined" sx={{ p: 2.5, display: 'grid', gap: 1.5 }}>
      <Typography variant="h2">{title}</Typography>
      {children}
    </Paper>
  );
}

/** What the last press of a form's button led to. */
function Outcome({ problem, done }: { problem: string | null; done: string | null }) {
  if (problem) return <Alert severity="error">{problem}</Alert>;
  return done ? <Alert severity="success">{done}</Alert> : null;
}

function useOutcome() {
  const [problem, setProblem] = useState<string | null>(null);
  const [done, setDone] = useState<string | null>(null);
  const attempt = async (work: () => Promise<unknown>, words: string) => {
    setProblem(null);
    setDone(null);
    try {
      await work();
      setDone(words);
      return true;
    } catch (error) {
      setProblem((error as Error).message);
      return false;
    }
  };
  return { outcome: <Outcome problem={problem} done={done} />, attempt };
}

function PasswordForm({ onChanged }: { onChanged: () => void }) {
  const { outcome, attempt } = useOutcome();
  const { register, handleSubmit, formState, reset } = useForm<ChangePassword>({
    resolver: zodResolver(changePasswordSchema),
    defaultValues: { password: '', newPassword: '' },
  });
  const { errors, isSubmitting } = formState;
  const change = handleSubmit(async (body) => {
    const changed = await attempt(
      () => send('/api/account/password', { method: 'PUT', body }),
      'Password changed. You are signed out everywhere else.',
    );
    if (!changed) return;
    reset();
    onChanged();
  });
  return (
    <Box component="form" noValidate onSubmit={(event) => void change(event)} sx={{ display: 'grid', gap: 1.5 }}>
      <TextField
        size="small"
        type="password"
        label="Current password"
        autoComplete="current-password"
        {...register('password')}
        error={!!errors.password}
        helperText={errors.password?.message}
      />
      <TextField
        size="small"
        type="password"
        label="New password"
        autoComplete="new-password"
        {...register('newPassword')}
        error={!!errors.newPassword}
        helperText={errors.newPassword?.message ?? 'At least 10 characters'}
      />
      {outcome}
      <Button type="submit" variant="contained" disabled={isSubmitting} sx={{ justifySelf: 'start' }}>
        Change password
      </Button>
    </Box>
  );
}

function Sessions({ sessions, onChanged }: Pick<AccountDetail, 'sessions'> & { onChanged: () => void }) {
  const { outcome, attempt } = useOutcome();
  const endOthers = async () => {
    await attempt(() => send('/api/account/sessions', { method: 'DELETE' }), 'You are signed out everywhere else.');
    onChanged();
  };
  const since = (time: string) => new Date(time).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
  return (
    <>
      <Box component="ul" aria-label="Signed-in browsers" sx={{ m: 0, pl: 2.5 }}>
        {sessions.map(({ id, agent, createdAt, current }) => (
          <li key={id}>
            {browserName(agent)}, since {since(createdAt)}
            {current && ' (this browser)'}
          </li>
        ))}
      </Box>
      {outcome}
      <Button
        variant="outlined"
        sx={{ justifySelf: 'start' }}
        disabled={sessions.length < 2}
        onClick={() => void endOthers()}
      >
        Sign out everywhere else
      </Button>
    </>
  );
}

function DeleteForm() {
  const { outcome, attempt } = useOutcome();
  const { register, handleSubmit, formState } = useForm<{ password: string }>({
    resolver: zodResolver(deleteAccountSchema),
    defaultValues: { password: '' },
  });
  const { errors, isSubmitting } = formState;
  const remove = handleSubmit(async (body) => {
    if (await attempt(() => send('/api/account', { method: 'DELETE', body }), 'The account is deleted.'))
      window.location.assign('/sign-in');
  });
  return (
    <Box component="form" noValidate onSubmit={(event) => void remove(event)} sx={{ display: 'grid', gap: 1.5 }}>
      <Typography color="textSecondary">
        Deletes every release, mix, version and delivery of this account. This can’t be undone: download what you want
        to keep first.
      </Typography>
      <TextField
        size="small"
        type="password"
        label="Confirm with your password"
        autoComplete="current-password"
        {...register('password')}
        error={!!errors.password}
        helperText={errors.password?.message}
      />
      {outcome}
      <Button type="submit" color="error" variant="outlined" disabled={isSubmitting} sx={{ justifySelf: 'start' }}>
        Delete this account
      </Button>
    </Box>
  );
}

/** One's own account: password, where it is signed in, what it takes up, and its end. */
export function AccountView() {
  const { data, error, refetch } = useQuery({
    queryKey: ['account'],
    queryFn: () => api(accountDetailSchema, '/api/account'),
  });
  const changed = () => void refetch();
  const gigabytes = (bytes: number) => (bytes / 1e9).toFixed(bytes < 1e10 ? 2 : 0);
  return (
    <Page crumbs={[{ title: 'Releases', href: '/' }, { title: 'Account' }]}>
      <Typography variant="h1" sx={{ mb: 0.5 }}>
        Account
      </Typography>
      {error && <Alert severity="error">{error.message}</Alert>}
      {!data && !error && <LinearProgress aria-label="Loading the account" />}
      {data && (
        <>
          <Typography color="textSecondary" sx={{ mb: 3 }}>
            {data.name}, {data.email}. Files take up {gigabytes(data.usedBytes)} of {gigabytes(data.quotaBytes)} GB.
          </Typography>
          <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' }, gap: 2, alignItems: 'start' }}>
            {data.demo ? (
              <Section title="Password">
                <Typography>
                  The demo account keeps its published password. Whoever runs the server can remove the demo:
                  <code> npm run demo -- remove</code>
                </Typography>
              </Section>
            ) : (
              <Section title="Password">
                <PasswordForm onChanged={changed} />
              </Section>
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
        </>
      )}
    </Page>
  );
}
