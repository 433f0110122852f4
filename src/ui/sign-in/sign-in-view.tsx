'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Paper from '@mui/material/Paper';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { sentenceOf } from '../../core/sentence-of';
import { newAccountSchema, signInSchema, type NewAccount, type SignIn } from '../../contracts/account';
import { send } from '../api';
import { Mark } from '../kit/mark';

/** A form that sends what it holds and goes on to a page. */
function useEntry<Values extends object>(path: string, next: string) {
  const [problem, setProblem] = useState<string | null>(null);
  const enter = async (given: Values) => {
    setProblem(null);
    try {
      await send(path, { method: 'POST', body: given });
      window.location.assign(next);
    } catch (error) {
      setProblem(sentenceOf(error));
    }
  };
  return { problem, enter };
}

/** The first account of an installation; `beside` another way in. */
function FirstAccountForm({ beside, next }: { beside: boolean; next: string }) {
  const { problem, enter } = useEntry<NewAccount>('/api/account/first', next);
  const { register, handleSubmit, formState } = useForm<NewAccount>({
    resolver: zodResolver(newAccountSchema),
    defaultValues: { email: '', name: '', password: '' },
  });
  const { errors, isSubmitting } = formState;
  const fields = [
    { name: 'name', label: 'Name', type: 'text', autoComplete: 'name' },
    { name: 'email', label: 'E-mail', type: 'email', autoComplete: 'username' },
    { name: 'password', label: 'Password', type: 'password', autoComplete: 'new-password' },
  ] as const;
  return (
    <Paper
      variant="outlined"
      component="form"
      noValidate
      aria-label="Create the first account"
      onSubmit={(event) => void handleSubmit(enter)(event)}
      sx={{ p: 2, display: 'grid', gap: 1.5 }}
    >
      <Typography variant="h3" component="h2">
        Create your account
      </Typography>
      <Typography color="textSecondary">Nobody has an account here yet. The first one is yours.</Typography>
      {fields.map(({ name, ...field }) => (
        <TextField
          key={name}
          size="small"
          {...field}
          {...register(name)}
          error={!!errors[name]}
          helperText={errors[name]?.message ?? (name === 'password' ? 'At least 10 characters' : undefined)}
        />
      ))}
      {problem && <Alert severity="error">{problem}</Alert>}
      <Button type="submit" variant={beside ? 'outlined' : 'contained'} size="medium" disabled={isSubmitting}>
        Create account
      </Button>
    </Paper>
  );
}

/**
 * Sign-in; `demo` offers the demo account while its data is present, `first` the first account while there is none. It
 * goes on to `next`.
 */
export function SignInView({ demo, first, next }: { demo: SignIn | null; first: boolean; next: string }) {
  const { problem, enter: signIn } = useEntry<SignIn>('/api/session', next);
  const { register, handleSubmit, formState } = useForm<SignIn>({
    resolver: zodResolver(signInSchema),
    defaultValues: { email: '', password: '' },
  });
  const { errors, isSubmitting } = formState;

  return (
    <Box component="main" sx={{ minHeight: '100vh', display: 'grid', placeItems: 'center', p: 3 }}>
      <Box sx={{ width: 380, maxWidth: '100%' }}>
        <Mark width={380} />
        <Typography variant="h1" sx={{ mt: 3 }}>
          Copper Lane
        </Typography>
        <Typography color="textSecondary" sx={{ mb: 3 }}>
          From a finished mix to a master that proves its spec.
        </Typography>
        {demo && (
          <Paper variant="outlined" sx={{ p: 2, mb: 2 }}>
            <Typography variant="h3" component="h2">
              Take a look first
            </Typography>
            <Typography color="textSecondary" sx={{ mb: 1.5 }}>
              The demo has music made for a small planetarium, with faults to find.
            </Typography>
            <Button variant="contained" fullWidth size="medium" onClick={() => void signIn(demo)}>
              Open the demo
            </Button>
          </Paper>
        )}
        {first ? (
          <FirstAccountForm beside={demo !== null} next={next} />
        ) : (
          <Paper
            variant="outlined"
            component="form"
            noValidate
            onSubmit={(event) => void handleSubmit(signIn)(event)}
            sx={{ p: 2, display: 'grid', gap: 1.5 }}
          >
            <Typography variant="h3" component="h2">
              Sign in
            </Typography>
            <TextField
              size="small"
              label="E-mail"
              type="email"
              autoComplete="username"
              {...register('email')}
              error={!!errors.email}
              helperText={errors.email?.message}
            />
            <TextField
              size="small"
              label="Password"
              type="password"
              autoComplete="current-password"
              {...register('password')}
              error={!!errors.password}
              helperText={errors.password?.message}
            />
            {problem && <Alert severity="error">{problem}</Alert>}
            <Button type="submit" variant={demo ? 'outlined' : 'contained'} size="medium" disabled={isSubmitting}>
              Sign in
            </Button>
          </Paper>
        )}
      </Box>
    </Box>
  );
}
