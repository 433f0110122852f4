import Papa from 'papaparse';
import type { Receipt } from '../../core/deliver/receipt';
import { edgeWords } from '../../core/sequence/edge-words';
import { louder } from '../../core/measure/intake-report';

function rowOf({
  file,
  measured,
  verdict,
  destination,
  mix,
  version,
  dither,
  levelDb,
  driveDb,
  tags,
  made,
  lane,
}: Receipt) {
  const missing = verdict.requirements.filter(({ standing, advice }) => standing === 'misses' && !advice);
  return {
    file: file.name,
    destination: destination.name,
    verdict: verdict.standing,
    misses: missing.map(({ title, miss }) => `${title}: ${miss}`).join('; '),
    format: destination.format.name,
    'sample rate, Hz': file.sampleRate,
    'word length, bits': file.bits || '',
    'duration, s': file.durationSeconds.toFixed(3),
    'integrated, LUFS': measured.integratedLufs,
    'momentary, LUFS': measured.maxMomentaryLufs,
    'short-term, LUFS': measured.maxShortTermLufs,
    'range, LU': measured.rangeLu,
    'true peak, dBTP': louder(measured.truePeakDbtp),
    'sample peak, dBFS': louder(measured.samplePeakDbfs),
    'PLR, LU': measured.plrLu,
    dither,
    'level at delivery, dB': levelDb,
    'drive for the destination, dB': driveDb,
    title: tags.title ?? '',
    ISRC: tags.isrc ?? '',
    version,
    edges: lane.edges ? edgeWords(lane.edges) : '',
    mix: mix.fileName,
    'SHA-256 of the file': file.sha256,
    'SHA-256 of the mix': mix.sha256,
    made: made.at ?? '',
    core: made.core,
  };
}

/** Receipts as a table for spreadsheets, a row each; figures as they were measured, not rounded. */
export function receiptsCsv(receipts: readonly Receipt[]): string {
  // Names come from outside: a spreadsheet must not take one for a formula.
  return `${Papa.unparse(receipts.map(rowOf), { escapeFormulae: true })}\r\n`;
}
