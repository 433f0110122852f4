/** When a new link expires, as it is offered. */
export const EXPIRIES = [
  { value: 'week', title: 'In a week', days: 7 },
  { value: 'month', title: 'In a month', days: 30 },
  { value: 'quarter', title: 'In three months', days: 91 },
  { value: 'never', title: 'Never', days: null },
] as const;
export type Expiry = (typeof EXPIRIES)[number]['value'];

const DAY_MS = 24 * 3600 * 1000;

/** The moment that a choice stands for, ISO 8601; null for never. */
export function expiryOf(expiry: Expiry, now = Date.now()): string | null {
  const days = EXPIRIES.find(({ value }) => value === expiry)?.days ?? null;
  return days === null ? null : new Date(now + days * DAY_MS).toISOString();
}
