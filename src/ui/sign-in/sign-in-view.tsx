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
import { signInSchema, type SignIn } from '../../exchange/account';
import { api } from '../api';
import { Mark } from '../shell/mark';

/** Sign-in; `demo` offers the demo account while its data is present. */
export function SignInView({ demo }: { demo: SignIn | null }) {
  const [problem, setProblem] = useState<string | null>(null);
  const { register, handleSubmit, formState } = useForm<SignIn>({
    resolver: zodResolver(signInSchema),
    defaultValues: { email: '', password: '' },
  });
  const { errors, isSubmitting } = formState;

  const signIn = async (given: SignIn) => {
    setProblem(null);
    try {
      await api('/api/session', { method: 'POST', body: given });
      window.location.assign('/');
    } catch (error) {
      setProblem((error as Error).message);
    }
  };

  return (
    <Box component="main" sx={{ minHeight: '100vh', display: 'grid', placeItems: 'center', p: 3 }}>
      <Box sx={{ width: 380, maxWidth: '100%' }}>
        <Mark width={380} />
        <Typography variant="h1" sx={{ mt: 3 }}>
          Copper Lane
        </Typography>
        <Typography color="textSecondary" sx={{ mb: 3 }}>
          From a finished mix to a master that proves what it is.
        </Typography>
        {demo && (
          <Paper variant="outlined" sx={{ p: 2, mb: 2 }}>
            <Typography variant="h3">Have a look first</Typography>
            <Typography color="textSecondary" sx={{ mb: 1.5 }}>
              The demo holds music made for a small planetarium, with faults to find.
            </Typography>
            <Button variant="contained" fullWidth size="medium" onClick={() => void signIn(demo)}>
              Open the demo
            </Button>
          </Paper>
        )}
        <Paper
          variant="outlined"
          component="form"
          noValidate
          onSubmit={(event) => void handleSubmit(signIn)(event)}
          sx={{ p: 2, display: 'grid', gap: 1.5 }}
        >
          <Typography variant="h3">Sign in</Typography>
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
      </Box>
    </Box>
  );
}
