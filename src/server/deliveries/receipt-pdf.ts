import { readFile } from 'node:fs/promises';
import path from 'node:path';
import PDFDocument from 'pdfkit';
import { destinationSentence } from '../../core/deliver/describe';
import { encodeName } from '../../core/deliver/encode';
import type { Receipt } from '../../core/deliver/receipt';
import { stageTitle, type Lane } from '../../core/lane/schema';
import { louder } from '../../core/measure/intake-report';
import { reading, readingWords } from '../../core/measure/reading';

const MARGIN = 48;
const WIDTH = 595.28 - 2 * MARGIN;
const FONTS = 'node_modules/@fontsource/instrument-sans/files';
const FACES = { text: 'instrument-sans-latin-400-normal.woff', strong: 'instrument-sans-latin-600-normal.woff' };
const CURVE_HEIGHT = 90;
/** LUFS at the top and the bottom of the curve. */
const CURVE_RANGE = [0, -60] as const;
const GREY = '#5a5a5a';

/** What the faces have no sign for, in words. */
function printable(text: string): string {
  return text.replace(/≤ ?/g, 'at most ').replace(/≥ ?/g, 'at least ').replace(/ ?±/g, ', within ').replace(/→/g, '>');
}

/** Settings that differ between stages, as one line each. */
function laneLines({ stages }: Lane): string[] {
  return stages.filter(({ on }) => on).map((stage) => `${stageTitle(stage)}: ${JSON.stringify(stage.settings)}`);
}

function drawCurve(page: PDFKit.PDFDocument, { shortTermLufs }: Receipt['curve']): void {
  const top = page.y;
  const [high, low] = CURVE_RANGE;
  const yOf = (lufs: number) => top + ((high - Math.max(low, Math.min(high, lufs))) / (high - low)) * CURVE_HEIGHT;
  page.rect(MARGIN, top, WIDTH, CURVE_HEIGHT).lineWidth(0.5).stroke('#b0b0b0');
  for (const lufs of [-14, -23, -40]) {
    page
      .moveTo(MARGIN, yOf(lufs))
      .lineTo(MARGIN + WIDTH, yOf(lufs))
      .lineWidth(0.25)
      .stroke('#d0d0d0');
    page
      .fontSize(7)
      .fillColor(GREY)
      .text(`${lufs} LUFS`.replace('-', '\u2212'), MARGIN + 3, yOf(lufs) - 9);
  }
  let drawing = false;
  shortTermLufs.forEach((lufs, i) => {
    const x = MARGIN + (i / Math.max(1, shortTermLufs.length - 1)) * WIDTH;
    if (lufs === null) drawing = false;
    else if (drawing) page.lineTo(x, yOf(lufs));
    else {
      page.moveTo(x, yOf(lufs));
      drawing = true;
    }
  });
  page.lineWidth(0.8).stroke('#1f5f5b');
  page.x = MARGIN;
  page.y = top + CURVE_HEIGHT + 8;
}

/** A receipt as a printed sheet, A4. The same receipt gives the same bytes. */
export async function receiptPdf(receipt: Receipt): Promise<Buffer> {
  const { file, measured, verdict, destination, mix, made, by, tags, lane } = receipt;
  const date = made.at ? new Date(made.at) : new Date(0);
  const page = new PDFDocument({
    ...{ size: 'A4', margin: MARGIN },
    info: { Title: `Receipt of ${file.name}`, CreationDate: date, Author: by.studio || by.engineer },
  });
  for (const [name, face] of Object.entries(FACES))
    page.registerFont(name, await readFile(path.resolve(process.cwd(), FONTS, face)));
  const chunks: Buffer[] = [];
  page.on('data', (chunk: Buffer) => chunks.push(chunk));
  const ended = new Promise((resolve) => page.on('end', resolve));

  const heading = (text: string) => page.moveDown(0.6).font('strong').fontSize(11).fillColor('black').text(text);
  const line = (text: string) => page.font('text').fontSize(9).fillColor('black').text(printable(text));
  const row = (cells: readonly (readonly [text: string, at: number, width: number])[], face = 'text') => {
    const y = page.y;
    let bottom = y;
    for (const [text, at, width] of cells) {
      page
        .font(face)
        .fontSize(9)
        .fillColor('black')
        .text(printable(text), MARGIN + at, y, { width });
      bottom = Math.max(bottom, page.y);
    }
    page.x = MARGIN;
    page.y = bottom + 2;
  };

  page.font('strong').fontSize(16).text('Receipt').fontSize(11).text(file.name);
  line([tags.title, tags.artist, tags.album].filter(Boolean).join(', '));
  line([by.engineer, by.studio, made.at ?? ''].filter(Boolean).join(', '));
  heading(`${destination.name}: the file ${verdict.standing === 'unknown' ? 'could not be judged' : verdict.standing}`);
  line(destinationSentence(destination));
  line(`Source: ${destination.source || 'not given'}`);
  page.moveDown(0.5);
  const COLUMNS = [0, 130, 250, 375] as const;
  const WIDTHS = [125, 115, 120, WIDTH - 375] as const;
  row(
    ['Requirement', 'Measured', 'Required', 'Verdict'].map((text, i) => [text, COLUMNS[i], WIDTHS[i]]),
    'strong',
  );
  for (const { title, measured: value, asked, standing, miss, advice, source } of verdict.requirements)
    row([
      [title, COLUMNS[0], WIDTHS[0]],
      [value, COLUMNS[1], WIDTHS[1]],
      [asked, COLUMNS[2], WIDTHS[2]],
      [`${advice ? 'advice: ' : ''}${miss || standing}${source ? ` (${source})` : ''}`, COLUMNS[3], WIDTHS[3]],
    ]);
  if (receipt.curve.shortTermLufs.length > 0) {
    heading('Short-term loudness');
    drawCurve(page, receipt.curve);
  }
  heading('Figures');
  line(
    [
      `integrated ${readingWords(reading('loudness', measured.integratedLufs))}`,
      `momentary ${readingWords(reading('loudness', measured.maxMomentaryLufs))}`,
      `short-term ${readingWords(reading('loudness', measured.maxShortTermLufs))}`,
      `range ${readingWords(reading('loudnessDifference', measured.rangeLu))}`,
      `true peak ${readingWords(reading('truePeak', louder(measured.truePeakDbtp)))}`,
      `sample peak ${readingWords(reading('samplePeak', louder(measured.samplePeakDbfs)))}`,
    ].join('; '),
  );
  for (const { codec, kbps, truePeakDbtp, overs } of receipt.encodes)
    line(
      `In ${encodeName({ codec, kbps })}: true peak ${readingWords(reading('truePeak', louder(truePeakDbtp)))}, ${overs} frames over full scale`,
    );
  heading('How it was made');
  line(
    `From ${mix.fileName}, version “${receipt.version}”, level at delivery ${receipt.levelDb} dB, drive ${receipt.driveDb} dB, dither ${receipt.dither}`,
  );
  laneLines(lane).forEach(line);
  line(`SHA-256 of the file ${file.sha256}`);
  line(`SHA-256 of the mix ${mix.sha256}`);
  line(`Core ${made.core}, ffmpeg ${made.ffmpeg}, form ${made.form}`);
  page.end();
  await ended;
  return Buffer.concat(chunks);
}
