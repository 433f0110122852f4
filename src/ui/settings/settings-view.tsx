'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControl from '@mui/material/FormControl';
import FormControlLabel from '@mui/material/FormControlLabel';
import FormHelperText from '@mui/material/FormHelperText';
import FormLabel from '@mui/material/FormLabel';
import LinearProgress from '@mui/material/LinearProgress';
import Paper from '@mui/material/Paper';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import { useColorScheme } from '@mui/material/styles';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { Controller, useForm, type Resolver } from 'react-hook-form';
import { STARTING_DESTINATIONS } from '../../core/deliver/destination';
import { NAME_PARTS, nameByPattern, patternProblem } from '../../core/deliver/file-name';
import { describeDestination } from '../../core/deliver/verdict';
import {
  type AccountDetail,
  accountDetailSchema,
  type AccountSettings,
  accountSettingsSchema,
  type ChangeAccount,
  changeAccountSchema,
  type ChangePassword,
  changePasswordSchema,
  deleteAccountSchema,
} from '../../contracts/account';
import { removedListSchema, type Removable } from '../../contracts/release';
import { api, send } from '../api';
import { dateAndTime } from '../kit/format';
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
  return (
    <>
      <Box component="ul" aria-label="Signed-in browsers" sx={{ m: 0, pl: 2.5 }}>
        {sessions.map(({ id, agent, createdAt, current }) => (
          <li key={id}>
            {browserName(agent)}, since {dateAndTime(createdAt)}
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

/** Name and e-mail address. */
function YouForm({ name, email, onChanged }: { name: string; email: string; onChanged: () => void }) {
  const { outcome, attempt } = useOutcome();
  // An address that stays needs no password.
  const changed = (given: ChangeAccount) => (given.email === email ? { name: given.name } : given);
  const { register, handleSubmit, formState, resetField, watch } = useForm<ChangeAccount>({
    resolver: (given, ...rest) => zodResolver(changeAccountSchema)(changed(given), ...rest),
    defaultValues: { name, email, password: '' },
  });
  const { errors, isSubmitting } = formState;
  const moves = watch('email') !== email;
  const save = handleSubmit(async (body) => {
    if (!(await attempt(() => send('/api/account', { method: 'PATCH', body }), 'Saved.'))) return;
    resetField('password');
    onChanged();
  });
  return (
    <Box component="form" noValidate onSubmit={(event) => void save(event)} sx={{ display: 'grid', gap: 1.5 }}>
      <TextField
        size="small"
        label="Name"
        autoComplete="name"
        {...register('name')}
        error={!!errors.name}
        helperText={errors.name?.message}
      />
      <TextField
        size="small"
        type="email"
        label="E-mail"
        autoComplete="username"
        {...register('email')}
        error={!!errors.email}
        helperText={errors.email?.message ?? 'You sign in with it'}
      />
      {moves && (
        <TextField
          size="small"
          type="password"
          label="Password, to change the e-mail"
          autoComplete="current-password"
          {...register('password')}
          error={!!errors.password}
          helperText={errors.password?.message}
        />
      )}
      {outcome}
      <Button type="submit" variant="contained" disabled={isSubmitting} sx={{ justifySelf: 'start' }}>
        Save
      </Button>
    </Box>
  );
}

const EXAMPLE = {
  ...{ artist: 'The Ashgrove Dome Ensemble', release: 'Slow Orbits', position: '02', title: 'Long Dusk' },
  ...{ destination: 'Disc', version: 'First version', isrc: 'AA6Q72000047', ean: '6291041500213', year: '2026' },
};

/** What new releases and deliveries begin with. */
function DeliveriesForm({ settings, onChanged }: { settings: AccountSettings; onChanged: () => void }) {
  const { outcome, attempt } = useOutcome();
  const { register, handleSubmit, formState, watch, control } = useForm<AccountSettings>({
    resolver: zodResolver(accountSettingsSchema) as Resolver<AccountSettings>,
    defaultValues: settings,
  });
  const { errors, isSubmitting } = formState;
  const pattern = watch('fileNamePattern');
  const problem = patternProblem(pattern);
  const save = handleSubmit(async (body) => {
    if (await attempt(() => send('/api/account/settings', { method: 'PUT', body }), 'Saved.')) onChanged();
  });
  return (
    <Box component="form" noValidate onSubmit={(event) => void save(event)} sx={{ display: 'grid', gap: 1.5 }}>
      <Controller
        control={control}
        name="destinations"
        render={({ field: { value, onChange } }) => (
          <FormControl component="fieldset" error={!!errors.destinations}>
            <FormLabel component="legend">A new release starts with</FormLabel>
            {STARTING_DESTINATIONS.map((destination) => (
              <FormControlLabel
                key={destination.name}
                label={`${destination.name}: ${describeDestination(destination)}`}
                control={
                  <Checkbox
                    size="small"
                    checked={value.includes(destination.name)}
                    onChange={(_, on) =>
                      onChange(on ? [...value, destination.name] : value.filter((name) => name !== destination.name))
                    }
                  />
                }
              />
            ))}
            <FormHelperText>{errors.destinations?.message}</FormHelperText>
          </FormControl>
        )}
      />
      <TextField
        size="small"
        label="File name"
        {...register('fileNamePattern')}
        error={problem !== null}
        helperText={problem ?? `Such as “${nameByPattern(pattern, EXAMPLE)}.wav”`}
      />
      <Typography color="textSecondary" sx={{ fontSize: 12.5 }}>
        Parts:{' '}
        {Object.entries(NAME_PARTS)
          .map(
            ([part, what]) =>
              `{${part}} ${what.toLowerCase().replace(/\b(isrc|ean)\b/g, (word) => word.toUpperCase())}`,
          )
          .join(', ')}
        . A part without a value is left out, with the separator after it.
      </Typography>
      <TextField
        size="small"
        label="Studio, for receipts"
        {...register('studio')}
        error={!!errors.studio}
        helperText={errors.studio?.message}
      />
      <TextField
        size="small"
        label="Engineer, for receipts"
        {...register('engineer')}
        error={!!errors.engineer}
        helperText={errors.engineer?.message}
      />
      {outcome}
      <Button type="submit" variant="contained" disabled={isSubmitting} sx={{ justifySelf: 'start' }}>
        Save
      </Button>
    </Box>
  );
}

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

const KIND_TITLES: Record<Removable['kind'], string> = {
  release: 'Release',
  track: 'Track',
  mix: 'Mix',
  version: 'Version',
};

/** What was deleted lately, to be restored. */
function Deleted() {
  const { outcome, attempt } = useOutcome();
  const client = useQueryClient();
  const { data } = useQuery({ queryKey: ['removed'], queryFn: () => api(removedListSchema, '/api/removed') });
  const restore = async (kind: Removable['kind'], id: string, title: string) => {
    const body = { kind, id };
    await attempt(() => send('/api/removed/restored', { method: 'POST', body }), `“${title}” is back.`);
    await client.invalidateQueries();
  };
  return (
    <>
      <Typography color="textSecondary">
        {data?.length === 0 ? 'Nothing was deleted in the last 30 days.' : 'Kept for 30 days, then removed for good.'}
      </Typography>
      <Box component="ul" aria-label="Recently deleted" sx={{ m: 0, p: 0, listStyle: 'none', display: 'grid', gap: 1 }}>
        {data?.map(({ kind, id, title, of, removedAt }) => (
          <Box component="li" key={id} sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <Box sx={{ flex: 1, minWidth: 0 }}>
              {kind === 'mix' ? title : `${KIND_TITLES[kind]} “${title}”`}
              {of && ` of “${of}”`}, deleted {dateAndTime(removedAt)}
            </Box>
            <Button variant="outlined" aria-label={`Restore ${title}`} onClick={() => void restore(kind, id, title)}>
              Restore
            </Button>
          </Box>
        ))}
      </Box>
      {outcome}
    </>
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
      {error && <Alert severity="error">{error.message}</Alert>}
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
