'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useForm } from 'react-hook-form';
import {
  type AccountDetail,
  type ChangeAccount,
  changeAccountSchema,
  type ChangePassword,
  changePasswordSchema,
  deleteAccountSchema,
} from '../../contracts/account';
import { send } from '../api';
import { dateAndTime } from '../kit/format';
import { browserName } from './browser-name';
import { useOutcome } from './outcome';

/** Changes the password. */
export function PasswordForm({ onChanged }: { onChanged: () => void }) {
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

/** Where one is signed in. */
export function Sessions({ sessions, onChanged }: Pick<AccountDetail, 'sessions'> & { onChanged: () => void }) {
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

/** Deletes the account. */
export function DeleteForm() {
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
export function YouForm({ name, email, onChanged }: { name: string; email: string; onChanged: () => void }) {
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
