import { accountSettingsSchema } from '@/contracts/account';
import { saveSettings } from '@/server/accounts/settings';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const PUT = route(async ({ db, request, account }) =>
  saveSettings(db, account.id, await body(request, accountSettingsSchema)),
);
