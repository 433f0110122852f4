import { z } from 'zod';

const email = z.string().trim().toLowerCase().max(200).pipe(z.email('Enter an e-mail address.'));
const newPassword = z
  .string()
  .min(10, 'Choose a password of at least 10 characters.')
  .max(200, 'The password can have up to 200 characters.');
const password = z.string().min(1, 'Enter your password.').max(200);

export const signInSchema = z.strictObject({ email, password });
export type SignIn = z.infer<typeof signInSchema>;

/** The first account of an installation, and any that an operator adds. */
export const newAccountSchema = z.strictObject({
  email,
  name: z.string().trim().min(1, 'Enter your name.').max(120, 'The name can have up to 120 characters.'),
  password: newPassword,
});
export type NewAccount = z.infer<typeof newAccountSchema>;

export const changePasswordSchema = z.strictObject({ password, newPassword });
export type ChangePassword = z.infer<typeof changePasswordSchema>;

export const deleteAccountSchema = z.strictObject({ password });

/** A browser in which an account is signed in. */
export const sessionSummarySchema = z.object({
  id: z.string(),
  agent: z.string(),
  createdAt: z.string(),
  current: z.boolean(),
});
export type SessionSummary = z.infer<typeof sessionSummarySchema>;

/** What the account page shows. */
export const accountDetailSchema = z.object({
  email: z.string(),
  name: z.string(),
  demo: z.boolean(),
  /** What its files take up, and may take up. */
  usedBytes: z.number(),
  quotaBytes: z.number(),
  sessions: z.array(sessionSummarySchema),
});
export type AccountDetail = z.infer<typeof accountDetailSchema>;
