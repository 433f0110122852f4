import { destinationSentence } from '../../core/deliver/describe';
import type { Receipt } from '../../core/deliver/receipt';
import { louder } from '../../core/measure/intake-report';
import { reading, readingWords } from '../../core/measure/reading';

/** A file of a package: where it lies, and its receipt. */
export interface NotedFile {
  path: string;
  receipt: Receipt;
}

/** What comes with a package of files, as plain text: what each file is, and what it measures. */
export function deliveryNote(release: { title: string; artist: string }, files: readonly NotedFile[]): string {
  const destinations = [
    ...new Map(files.map(({ receipt }) => [receipt.destination.name, receipt.destination])).values(),
  ];
  const [first] = files;
  const by = [first.receipt.by.engineer, first.receipt.by.studio].filter(Boolean).join(', ');
  const lines = [
    [release.artist, release.title].filter(Boolean).join(' – '),
    ...(by ? [`Mastered by ${by}`] : []),
    '',
    ...destinations.flatMap((destination) => [
      `${destination.name} (${destination.source || 'no source given'})`,
      `  ${destinationSentence(destination)}`,
      ...files
        .filter(({ receipt }) => receipt.destination.name === destination.name)
        .flatMap(({ path, receipt: { verdict, measured, file } }) => {
          const missing = verdict.requirements.filter(({ standing, advice }) => standing === 'misses' && !advice);
          return [
            `  ${path}`,
            `    ${readingWords(reading('loudness', measured.integratedLufs))}, ${readingWords(reading('truePeak', louder(measured.truePeakDbtp)))}, ${readingWords(reading('time', file.durationSeconds))}: ${verdict.standing}`,
            ...missing.map(({ title, miss }) => `    ${title}: ${miss}`),
          ];
        }),
      '',
    ]),
    'Every figure was measured on the finished file. SHA256SUMS checks the files: sha256sum --check SHA256SUMS',
  ];
  return `${lines.join('\n')}\n`;
}
