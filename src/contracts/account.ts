import { z } from 'zod';
import { patternProblem, STANDARD_PATTERN } from '../core/deliver/file-name';

const email = z.string().trim().toLowerCase().max(200).pipe(z.email('Enter an e-mail address.'));
const newPassword = z
  .string()
  .min(10, 'Choose a password of at least 10 characters.')
  .max(200, 'The password can have up to 200 characters.');
const name = z.string().trim().min(1, 'Enter your name.').max(120, 'The name can have up to 120 characters.');
const password = z.string().min(1, 'Enter your password.').max(200);

export const signInSchema = z.strictObject({ email, password });
export type SignIn = z.infer<typeof signInSchema>;

/** The first account of an installation, and any that an operator adds. */
export const newAccountSchema = z.strictObject({
  email,
  name,
  password: newPassword,
});
export type NewAccount = z.infer<typeof newAccountSchema>;

export const changePasswordSchema = z.strictObject({ password, newPassword });
export type ChangePassword = z.infer<typeof changePasswordSchema>;

export const deleteAccountSchema = z.strictObject({ password });

/** What deliveries begin with. Its form has a version, so that later ones can read it. */
export const accountSettingsSchema = z.strictObject({
  schema: z.literal(2).default(2),
  fileNamePattern: z
    .string()
    .trim()
    .max(200, 'The pattern can have up to 200 characters.')
    .default(STANDARD_PATTERN)
    .superRefine((pattern, context) => {
      const problem = patternProblem(pattern);
      if (problem) context.addIssue({ code: 'custom', message: problem });
    }),
  /** For receipts. */
  studio: z.string().trim().max(120, 'The studio can have up to 120 characters.').default(''),
  engineer: z.string().trim().max(120, 'The engineer can have up to 120 characters.').default(''),
});
export type AccountSettings = z.infer<typeof accountSettingsSchema>;

/** Changes one's name, or with the password one's e-mail address. */
export const changeAccountSchema = z
  .strictObject({ name: name.optional(), email: email.optional(), password: z.string().max(200).optional() })
  .refine((change) => change.email === undefined || change.password, {
    path: ['password'],
    message: 'Enter your password to change the e-mail address.',
  });
export type ChangeAccount = z.infer<typeof changeAccountSchema>;

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
  settings: accountSettingsSchema,
  /** Public half of the key that receipts are signed with. */
  receiptKey: z.string(),
  sessions: z.array(sessionSummarySchema),
});
export type AccountDetail = z.infer<typeof accountDetailSchema>;
