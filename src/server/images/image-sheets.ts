import { create as contentDisposition } from 'content-disposition';
import Papa from 'papaparse';
import { cueSheet, discTime } from '../../core/sequence/cue-sheet';
import type { ImageReceipt, ImageTrack } from '../../core/sequence/image-log';
import { DISC_FRAMES } from '../../core/sequence/joint';
import { figure } from '../../core/measure/figure';
import { destinationSentence } from '../../core/deliver/describe';
import { louder } from '../../core/measure/intake-report';
import { Sheet } from '../sheet';
import { Problem } from '../problem';

/** The cue sheet of an image. */
function imageCueSheet({ title, artist, ean, tracks, receipt }: ImageReceipt): string {
  return cueSheet({ file: receipt.file.name, title, artist, ean, tracks });
}

/** Disc frames of the pause before a track. */
const pauseOf = ({ index0, index1 }: ImageTrack) => (index0 === null ? 0 : index1 - index0);

/** The log of an image as a table for spreadsheets, a row for each track. */
function imageLogCsv({ tracks, receipt, ean }: ImageReceipt): string {
  const rows = tracks.map((track, i) => ({
    track: i + 1,
    title: track.title,
    artist: track.artist,
    'start, mm:ss:ff': discTime(track.index1),
    'length, mm:ss:ff': discTime(track.discFrames),
    'pause before, mm:ss:ff': discTime(pauseOf(track)),
    ISRC: track.isrc,
    'integrated, LUFS': track.integratedLufs,
    'true peak, dBTP': track.truePeakDbtp,
    'sample peak, dBFS': track.samplePeakDbfs,
    'SHA-256 of the samples': track.sha256,
    mix: track.mix,
    version: track.version,
    image: receipt.file.name,
    'SHA-256 of the image': receipt.file.sha256,
    EAN: ean,
  }));
  return `${Papa.unparse(rows, { escapeFormulae: true })}\r\n`;
}

/** The log of an image as a printed sheet, A4. The same image gives the same bytes. */
async function imageLogPdf(image: ImageReceipt): Promise<Buffer> {
  const { title, artist, ean, tracks, receipt } = image;
  const { file, measured, verdict, destination, made, by } = receipt;
  const sheet = await Sheet.begin({
    title: `Log of ${file.name}`,
    author: by.studio || by.engineer,
    at: made.at ? new Date(made.at) : new Date(0),
  });
  sheet.title('Log sheet', `${title}${artist ? `, ${artist}` : ''}`);
  sheet.line([by.engineer, by.studio, made.at ?? ''].filter(Boolean).join(', '));
  sheet.line(
    `${file.name}: ${file.container}, ${file.sampleRate / 1000} kHz, ${file.bits} bits, ${discTime(Math.round(file.durationSeconds * DISC_FRAMES))}${ean ? `, EAN ${ean}` : ''}`,
  );
  const shown = (value: number | null, unit: string) => (value === null ? 'silent' : `${figure(value)} ${unit}`);
  sheet.line(
    `Whole image: ${shown(measured.integratedLufs, 'LUFS')}, ${shown(louder(measured.truePeakDbtp), 'dBTP')}, ${shown(louder(measured.samplePeakDbfs), 'dBFS')}`,
  );
  sheet.heading('Tracks');
  const columns = [20, 150, 60, 60, 55, 80, 74] as const;
  sheet.row(['', 'Title', 'Start', 'Length', 'Pause', 'ISRC', 'Loudness, peak'], columns, 'strong');
  tracks.forEach((track, i) =>
    sheet.row(
      [
        ...[String(i + 1), track.title, discTime(track.index1), discTime(track.discFrames), discTime(pauseOf(track))],
        ...[track.isrc || 'none', `${shown(track.integratedLufs, 'LUFS')} ${shown(track.truePeakDbtp, 'dBTP')}`],
      ],
      columns,
    ),
  );
  sheet.heading(
    `${destination.name}: the image ${verdict.standing === 'unknown' ? 'could not be judged' : verdict.standing}`,
  );
  sheet.line(destinationSentence(destination));
  for (const { title: what, measured: value, asked, standing, miss, advice, source } of verdict.requirements)
    sheet.row(
      [what, value, asked, standing === 'misses' ? `${advice ? 'advice: ' : ''}${miss}` : standing, source],
      [90, 110, 110, 110, 79],
    );
  sheet.heading('Checksums, SHA-256');
  sheet.line(`Image ${file.sha256}`);
  tracks.forEach(({ sha256 }, i) => sheet.line(`Samples of track ${i + 1} ${sha256}`));
  sheet.line(`Core ${made.core}, ffmpeg ${made.ffmpeg}, form ${made.form}`);
  return sheet.end();
}

/** Forms of what comes with an image: how each is called, and its MIME type. */
const FORMS: Record<
  string,
  { ending: string; type: string; write: (image: ImageReceipt) => string | Promise<Buffer> }
> = {
  cue: { ending: 'cue', type: 'application/x-cue; charset=utf-8', write: imageCueSheet },
  csv: { ending: 'log.csv', type: 'text/csv; charset=utf-8', write: imageLogCsv },
  pdf: { ending: 'log.pdf', type: 'application/pdf', write: imageLogPdf },
  json: {
    ...{ ending: 'receipt.json', type: 'application/json' },
    write: (image) => `${JSON.stringify(image, null, 2)}\n`,
  },
};

/** A sheet of an image to be saved. Throws a Problem (422) for an unknown form. */
export async function imageSheet(image: ImageReceipt, form: string): Promise<Response> {
  if (!Object.hasOwn(FORMS, form))
    throw new Problem(422, 'An image has a cue sheet (cue), a log (csv or pdf) and a receipt (json).');
  const { ending, type, write } = FORMS[form];
  const written = await write(image);
  const name = `${image.receipt.file.name.replace(/\.\w+$/, '')}.${ending}`;
  return new Response(typeof written === 'string' ? written : Uint8Array.from(written), {
    headers: { 'Content-Type': type, 'Content-Disposition': contentDisposition(name) },
  });
}
