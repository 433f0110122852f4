import { z } from 'zod';

export const signInSchema = z.strictObject({
  email: z.string().trim().toLowerCase().pipe(z.email('Enter an e-mail address.')),
  password: z.string().min(1, 'Enter your password.').max(200),
});

export type SignIn = z.infer<typeof signInSchema>;
