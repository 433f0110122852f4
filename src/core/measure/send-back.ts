import type { Finding } from './findings';

/** A text for the client of a mix that is better sent back; null when there are no faults. */
export function sendBackText(title: string, fileName: string, findings: readonly Finding[]): string | null {
  const faults = findings.filter(({ weight }) => weight === 'fault');
  if (faults.length === 0) return null;
  const others = findings.filter(({ weight }) => weight === 'caution');
  const list = (of: readonly Finding[]) => of.map(({ title: name, sentence }) => `- ${name}: ${sentence}`).join('\n');
  return [
    `Thank you for “${title}” (${fileName}). Before I start, something in the file needs fixing, since mastering would make it worse:`,
    list(faults),
    ...(others.length > 0 ? ['While you are at it, please check this too:', list(others)] : []),
    'A new export as 24-bit or float WAV at the rate of the session, without limiter or clipper on the mix bus and with peaks near −3 dBFS, is all I need.',
  ].join('\n\n');
}
