import { figure } from '../../kit/format';

/** What level matching does to a candidate, in words. */
export function gainWords(gainDb: number | undefined): string {
  if (gainDb === undefined) return 'level not known yet';
  if (Math.abs(gainDb) < 0.05) return 'as it is';
  return `${gainDb > 0 ? 'raised' : 'lowered'} ${figure(Math.abs(gainDb))} dB`;
}
